<?php

declare(strict_types=1);

namespace App\Usage;

use App\Models\Site;
use Illuminate\Database\Eloquent\Builder;
use Illuminate\Database\Eloquent\Model;

/**
 * The marks of a list by name, as a request gives them: words, or flags that are set or not. Who uses it names its
 * flags in a constant FLAGS, and says what each mark leaves.
 *
 * @template TModel of Model
 */
trait Marks
{
    /** @param  array<string, mixed>  $marks as validated */
    public function __construct(private readonly Site $site, private readonly array $marks)
    {
    }

    public function asked(): ?Asked
    {
        $text = $this->mark('q');

        return $text === '' ? null : Asked::of($this->site, $text);
    }

    /** @param  Builder<TModel>  $query */
    abstract private function narrow(Builder $query, string $name, string $value): void;

    /**
     * @param  Builder<TModel>  $query
     * @param  string|null  $except a mark that does not count
     * @return Builder<TModel>
     */
    private function narrowed(Builder $query, ?string $except): Builder
    {
        foreach (array_keys($this->marks) as $name) {
            $value = $name === $except ? '' : $this->mark($name);
            if ($value !== '') {
                $this->narrow($query, $name, $value);
            }
        }

        return $query;
    }

    private function mark(string $name): string
    {
        $value = $this->marks[$name] ?? '';
        if (in_array($name, self::FLAGS, true)) {
            return in_array($value, [true, 1, '1', 'true'], true) ? '1' : '';
        }

        return is_scalar($value) ? trim((string) $value) : '';
    }
}
