<?php

declare(strict_types=1);

namespace Tests\App;

/** Holds a value against the part of JSON Schema that the OpenAPI document uses. */
final class Schema
{
    /** @param  array<mixed>  $document */
    public function __construct(private readonly array $document)
    {
    }

    /**
     * @param  array<mixed>  $schema
     * @return list<string> what does not fit, with its place
     */
    public function misfits(mixed $value, array $schema, string $place = '$'): array
    {
        if (isset($schema['$ref'])) {
            $name = basename((string) $schema['$ref']);

            return $this->misfits($value, $this->document['components']['schemas'][$name] ?? throw new \LogicException("No schema $name."), $place);
        }
        if (isset($schema['oneOf'])) {
            foreach ($schema['oneOf'] as $one) {
                if ($this->misfits($value, $one, $place) === []) {
                    return [];
                }
            }

            return ["$place fits none of oneOf"];
        }
        $types = (array) ($schema['type'] ?? []);
        if ($types !== [] && array_filter($types, static fn (string $t): bool => self::is($value, $t)) === []) {
            return ["$place is ".get_debug_type($value).', not '.implode(' or ', $types)];
        }
        $misfits = [];
        if (isset($schema['enum']) && ! in_array($value, $schema['enum'], true)) {
            $misfits[] = "$place is not one of ".implode(', ', $schema['enum']);
        }
        if ($value instanceof \stdClass) {
            foreach ($schema['required'] ?? [] as $name) {
                if (! property_exists($value, $name)) {
                    $misfits[] = "$place.$name is missing";
                }
            }
            foreach (get_object_vars($value) as $name => $inner) {
                $own = $schema['properties'][$name] ?? (is_array($schema['additionalProperties'] ?? null) ? $schema['additionalProperties'] : null);
                if ($own !== null) {
                    array_push($misfits, ...$this->misfits($inner, $own, "$place.$name"));
                }
            }
        }
        if (is_array($value) && isset($schema['items'])) {
            foreach ($value as $i => $inner) {
                array_push($misfits, ...$this->misfits($inner, $schema['items'], "{$place}[$i]"));
            }
        }

        return $misfits;
    }

    private static function is(mixed $value, string $type): bool
    {
        return match ($type) {
            'object' => $value instanceof \stdClass,
            'array' => is_array($value),
            'string' => is_string($value),
            'integer' => is_int($value),
            'number' => is_int($value) || is_float($value),
            'boolean' => is_bool($value),
            'null' => $value === null,
            default => false,
        };
    }
}
