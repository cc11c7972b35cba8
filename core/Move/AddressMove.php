<?php

declare(strict_types=1);

namespace Ylema\Move;

use Generator;
use Ylema\Addresses\Url;
use Ylema\Plan\CannotPlan;
use Ylema\Plan\EditTally;
use Ylema\Plan\Facts;
use Ylema\Plan\Outline;
use Ylema\Plan\PlacedUse;
use Ylema\Plan\RecordEditor;
use Ylema\Plan\Refused;
use Ylema\Plan\Step;
use Ylema\Plan\Words;
use Ylema\Reading\Reading;
use Ylema\Reading\Reference;

/**
 * An address with all that lies below it becomes another one: whatever names it follows, pictures and links alike. What
 * is written without the address needs no edit, unless the folder on the host changes.
 */
final readonly class AddressMove
{
    public function __construct(private MoveRequest $request)
    {
    }

    /** @return Generator<int, Step|Refused, void, Outline> */
    public function plan(Facts $facts): Generator
    {
        [$from, $to] = $this->ends();
        $isOwn = $facts->addresses()->locate((string) $from)?->path === '';
        $editor = new RecordEditor();
        $tally = new EditTally();
        $broken = 0;
        foreach ($facts->usesBelow((string) $from) as $batch) {
            foreach ($batch as $uses) {
                $rewritten = [];
                $step = $editor->edit(
                    $uses,
                    static function (
                        Reference $at,
                        PlacedUse $use,
                        Reading $reading,
                    ) use ($from, $to, $isOwn, $tally, &$rewritten): string {
                        $new = self::written($at->value, $from, $to, $isOwn);
                        if ($new !== $at->value) {
                            $rewritten[] = $use;
                            $tally->note($at->value, $new);
                        }

                        return $new;
                    },
                );
                if ($step instanceof Refused) {
                    $tally->took($step, $uses->kind, count($uses->uses));
                    yield $step;

                    continue;
                }
                if ($rewritten === []) {
                    continue;
                }
                foreach ($rewritten as $use) {
                    $kind = $use->finding?->kind;
                    // What only the address is wrong with is mended by this.
                    $broken += $kind !== null && $kind->isBroken() && $use->path === null ? 1 : 0;
                }
                $tally->took($step, $uses->kind, count($rewritten));
                yield $step;
            }
        }
        if ($tally->isEmpty()) {
            throw new CannotPlan("Nothing that was read names $from, so nothing has to follow.");
        }

        return $this->outline($facts, $isOwn, $tally, $broken);
    }

    /** @return array{Url, Url} */
    private function ends(): array
    {
        $ends = [];
        foreach ([$this->request->from, $this->request->to] as $address) {
            $url = Url::parse(str_ends_with($address, '/') ? $address : "$address/");
            if ($url === null || ! $url->isWeb() || $url->query !== null) {
                throw new CannotPlan("$address is no address of a site. Write it in full: https://www.example.org/");
            }
            $ends[] = $url;
        }
        if ((string) $ends[0] === (string) $ends[1]) {
            throw new CannotPlan('Both addresses are the same.');
        }

        return [$ends[0], $ends[1]];
    }

    /** The same place below the other address, in the same way of writing. */
    public static function written(string $value, Url $from, Url $to, bool $isOwn): string
    {
        $folder = preg_quote($from->path, '~');
        $host = '(?:www\.)?'.preg_quote(preg_replace('~^www\.~', '', $from->host) ?? '', '~')
            .($from->port === null ? '(?::(?:80|443))?' : ":$from->port");
        if (preg_match("~^(https?:)?//$host(?:$folder|(?=[?#]|$))~i", $value, $m) === 1) {
            $rest = substr($value, strlen($m[0]));

            return (($m[1] ?? '') === '' ? '' : "$to->scheme:")."//{$to->authority()}$to->path".ltrim($rest, '/');
        }
        // Without an address it is the site's own; that changes only with its folder.
        $isBelow = preg_match("~^(?!//)$folder~", $value, $m) === 1;
        if ($isOwn && $isBelow && $from->path !== $to->path) {
            return $to->path.substr($value, strlen($m[0]));
        }

        return $value;
    }

    /** @param  int  $broken references that lead nowhere all the same */
    private function outline(Facts $facts, bool $isOwn, EditTally $tally, int $broken): Outline
    {
        $notes = [];
        if ($isOwn) {
            $notes[] = 'Once the site is there, say its new address in its settings, with the old one as a former '
                .'address. What the site writes without an address needs no edit.';
        }
        if ($broken > 0) {
            $notes[] = Words::many($broken, 'of these references leads', 'of these references lead')
                .' nowhere today, and will lead nowhere afterwards: no such file or page is known.';
        }
        if ($tally->left() > 0) {
            $notes[] = Words::many($tally->left(), 'reference').' cannot be edited; the steps say why.';
        }

        return new Outline(
            "Move {$this->request->from} to {$this->request->to}",
            $tally->sentence().'.',
            $tally->expectation(),
            array_values(array_unique([...$notes, ...$tally->stamps($facts)])),
            [],
            'repairs/move',
        );
    }
}
