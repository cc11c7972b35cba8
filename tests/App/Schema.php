<?php

declare(strict_types=1);

namespace Tests\App;

use Opis\JsonSchema\Errors\ErrorFormatter;
use Opis\JsonSchema\Helper;
use Opis\JsonSchema\Validator;

/** Holds a value against the schemas of the OpenAPI document, which are JSON Schema 2020-12 (OpenAPI 3.1, 4.8.24). */
final class Schema
{
    private readonly Validator $validator;

    /** @param  array<mixed>  $document */
    public function __construct(array $document)
    {
        $this->validator = new Validator(max_errors: 20);
        $this->validator->resolver()?->registerRaw(Helper::toJSON(self::closed($document)), 'ylema:///api');
    }

    /**
     * @param  array<mixed>  $schema as it stands in the document, with references into it
     * @return array<mixed> what does not fit, with its place
     */
    public function misfits(mixed $value, array $schema): array
    {
        array_walk_recursive($schema, static function (mixed &$v, mixed $k): void {
            $v = $k === '$ref' ? "ylema:///api$v" : $v;
        });
        $error = $this->validator->validate($value, Helper::toJSON(self::closed($schema)))->error();

        return $error === null ? [] : (new ErrorFormatter())->format($error);
    }

    /**
     * A property that no schema names is a misfit, too: nothing is sent that nobody promised.
     *
     * @param  array<mixed>  $schema
     * @return array<mixed>
     */
    private static function closed(array $schema): array
    {
        foreach ($schema as $name => $value) {
            if (is_array($value)) {
                $schema[$name] = self::closed($value);
            }
        }
        $isObject = is_array($schema['properties'] ?? null) && ($schema['type'] ?? null) === 'object';
        if ($isObject && ! isset($schema['additionalProperties'])) {
            $schema['additionalProperties'] = false;
        }

        return $schema;
    }
}
