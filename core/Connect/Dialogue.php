<?php

declare(strict_types=1);

namespace Ylema\Connect;

/** What is asked of the maintainer while a map is proposed, what was answered, and what speaks for each part of it. */
final class Dialogue
{
    /** @var array<string, string> */
    private array $evidence = [];

    /** @var array<string, Question> */
    private array $questions = [];

    /** @param  array<string, string>  $answers question → answer, from before */
    public function __construct(private readonly array $answers = [])
    {
    }

    /** @param  string  $place table and column, or another place of the map */
    public function because(string $place, string $sentence): void
    {
        $this->evidence[$place] = $sentence;
    }

    /** @return string what was answered, or what is most likely until somebody answers */
    public function answer(Question $question): string
    {
        // What a page is a form of is asked about once, though both follow from it.
        $this->questions[$question->id] = $question;

        return $this->answers[$question->id] ?? (string) array_key_first($question->answers);
    }

    /** @return array<string, string> place of the map → what speaks for it */
    public function evidence(): array
    {
        return $this->evidence;
    }

    /** @return list<Question> */
    public function questions(): array
    {
        return array_values($this->questions);
    }
}
