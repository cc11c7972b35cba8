<?php

declare(strict_types=1);

namespace App\Http\Rules;

use Closure;
use Illuminate\Contracts\Validation\ValidationRule;

/**
 * A list of numbers of things, judged in one pass: as rules of their own, a hundred thousand of them take a minute.
 */
final readonly class Ids implements ValidationRule
{
    public function __construct(private int $most)
    {
    }

    public function validate(string $attribute, mixed $value, Closure $fail): void
    {
        if (! is_array($value) || ! array_is_list($value)) {
            $fail("The field $attribute is no list.");

            return;
        }
        if (count($value) > $this->most) {
            $fail("The field $attribute holds more than ".number_format($this->most).' entries.');

            return;
        }
        foreach ($value as $id) {
            if (filter_var($id, FILTER_VALIDATE_INT, ['options' => ['min_range' => 1]]) === false || is_bool($id)) {
                $fail("The field $attribute holds something that is no number of a thing.");

                return;
            }
        }
    }
}
