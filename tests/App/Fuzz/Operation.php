<?php

declare(strict_types=1);

namespace Tests\App\Fuzz;

use Symfony\Component\Yaml\Yaml;

/** One operation of the API, as resources/openapi.yaml describes it. */
final readonly class Operation
{
    /**
     * @param  list<string>  $query names of its parameters
     * @param  array<string, mixed>|null  $body its schema
     */
    private function __construct(
        public string $method,
        public string $path,
        public string $role,
        public array $query,
        public ?array $body,
        public bool $isUpload,
    ) {
    }

    /** @return array<string, self> by "GET /sites" */
    public static function all(): array
    {
        static $all = [];
        if ($all !== []) {
            return $all;
        }
        $api = Yaml::parseFile(dirname(__DIR__, 3).'/resources/openapi.yaml');
        foreach ($api['paths'] as $path => $item) {
            foreach (['get', 'post', 'patch', 'put', 'delete'] as $method) {
                if (! isset($item[$method])) {
                    continue;
                }
                $parameters = [...$item['parameters'] ?? [], ...$item[$method]['parameters'] ?? []];
                $query = array_filter($parameters, static fn (array $p): bool => ($p['in'] ?? '') === 'query');
                $content = $item[$method]['requestBody']['content'] ?? [];
                $schema = $content['application/json']['schema'] ?? null;
                if (isset($schema['$ref'])) {
                    $schema = $api['components']['schemas'][basename($schema['$ref'])];
                }
                $all[strtoupper($method).' '.$path] = new self(
                    strtoupper($method),
                    $path,
                    $item[$method]['x-role'],
                    array_values(array_column($query, 'name')),
                    $schema,
                    isset($content['multipart/form-data']),
                );
            }
        }

        return $all;
    }

    /** @return list<string> names of the parameters in its path */
    public function places(): array
    {
        preg_match_all('~\{(\w+)\}~', $this->path, $m);

        return $m[1];
    }

    /** @param  array<string, string>  $values of its places, as they are to stand in the address */
    public function address(array $values): string
    {
        return '/api'.preg_replace_callback(
            '~\{(\w+)\}~',
            static fn (array $m): string => $values[$m[1]] ?? '1',
            $this->path,
        );
    }
}
