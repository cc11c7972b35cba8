<?php

declare(strict_types=1);

use App\Models\ChangeState;
use App\Models\Role;
use App\Plans\PlanDesk;
use App\Plans\Planners;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\Facts;
use Ylema\Plan\Outline;
use Ylema\Plan\Planner;
use Ylema\Plan\Steps\ChangeMedia;
use Ylema\Plan\Words;

/** A new kind of plan, whole: "say this wherever an item has no alt text". */
final readonly class FillAltTexts implements Planner
{
    public function __construct(private string $words)
    {
    }

    public static function kind(): string
    {
        return 'fill-alt-texts';
    }

    public static function of(array $request): self
    {
        return new self((string) $request['words']);
    }

    public function request(): array
    {
        return ['words' => $this->words];
    }

    public function plan(Facts $facts): Generator
    {
        $count = 0;
        foreach ($facts->words(null) as $batch) {
            foreach ($batch as $media) {
                if (($media->words['alt'] ?? null) === '') {
                    $count++;
                    yield new ChangeMedia($media->id, $media->path, ['alt' => ''], ['alt' => $this->words]);
                }
            }
        }
        if ($count === 0) {
            throw new CannotPlan('Every item has an alt text already.');
        }

        return new Outline('Alt texts where there were none', Words::many($count, 'item').' get an alt text.');
    }
}

it('makes, shows, applies and undoes a kind of plan that nobody but its planner knows', function (): void {
    app(Planners::class)->add(FillAltTexts::class);
    $before = $this->contentDigest();
    $empty = (int) self::contentValue("select count(*) from media where alt = ''");
    $plan = app(PlanDesk::class)->make($this->site(), new FillAltTexts('The bay'), null);
    $shown = $this->as(Role::Maintainer)
        ->getJson("/api/sites/korrin-bay/plans/{$plan->id}")
        ->assertOk()
        ->json();
    $step = $this->getJson("/api/sites/korrin-bay/plans/{$plan->id}/steps?limit=1")
        ->assertOk()
        ->json('steps.0');
    expect($shown['sentence'])
        ->toBe("$empty items get an alt text.")
        ->and($step['edits'][0])
        ->toMatchArray(['field' => 'alt', 'before' => '', 'after' => 'The bay']);
    $change = $this->apply($plan);
    expect($change->state)
        ->toBe(ChangeState::Applied)
        ->and($change->kind)
        ->toBe('fill-alt-texts')
        ->and(self::contentValue("select count(*) from media where alt = ''"))
        ->toBe('0')
        ->and($this->item('brand/favicon.png')->alt)
        ->toBe('The bay')
        ->and(fn () => app(PlanDesk::class)->make($this->site(), new FillAltTexts('x'), null))
        ->toThrow(App\Plans\PlanRefused::class, 'already');
    expect($this->undo($change)->state)
        ->toBe(ChangeState::Undone)
        ->and($this->contentDigest())
        ->toBe($before)
        ->and($this->item('brand/favicon.png')->alt)
        ->toBe('');
});
