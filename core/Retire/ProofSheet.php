<?php

declare(strict_types=1);

namespace Ylema\Retire;

use Ylema\Plan\Words;
use Ylema\Usage\Standing;

/**
 * All that speaks for and against a file going to its rest. The verdict is the worst that any line leaves: one source
 * that needs the file is enough, and one that was not looked at keeps it from being safe.
 */
final readonly class ProofSheet
{
    private const DAY = 86_400;

    /** A survey older than this says nothing of the site as it is. */
    private const SURVEY_DAYS = 90;

    /** Logs over fewer days miss what is asked for once a month. */
    private const LOG_DAYS = 28;

    /** Logs that ended longer ago say nothing of today. */
    private const LOG_AGE_DAYS = 60;

    /** What was asked for longer ago than this counts no more. */
    private const ASKED_DAYS = 365;

    /** What was uploaded lately may be about to be used. */
    private const NEW_DAYS = 30;

    public Verdict $verdict;

    /** The line that the verdict rests on; null where all speak for rest. */
    public ?ProofLine $reason;

    /** @param  list<ProofLine>  $lines */
    private function __construct(public array $lines)
    {
        $verdict = Verdict::Safe;
        $reason = null;
        foreach ($lines as $line) {
            if (self::weight($line->leaves) > self::weight($verdict)) {
                [$verdict, $reason] = [$line->leaves, $line];
            }
        }
        $this->verdict = $verdict;
        $this->reason = $reason;
    }

    public static function of(Traces $traces, Looked $looked): self
    {
        return new self([
            self::content($traces, $looked),
            self::code($traces, $looked),
            self::mentions($traces, $looked),
            self::survey($traces, $looked),
            self::log($traces, $looked),
            self::age($traces, $looked),
            self::copies($traces),
        ]);
    }

    /** @return list<array{source: string, says: string, sentence: string, at: int|null}> for whoever keeps it */
    public function toArray(): array
    {
        return array_map(
            static fn (ProofLine $line): array => [
                'source' => $line->source->value,
                'says' => $line->says->value,
                'sentence' => $line->sentence,
                'at' => $line->at,
            ],
            $this->lines,
        );
    }

    private static function weight(Verdict $verdict): int
    {
        return match ($verdict) {
            Verdict::Safe => 0,
            Verdict::Ask => 1,
            Verdict::Needed => 2,
        };
    }

    private static function content(Traces $traces, Looked $looked): ProofLine
    {
        $line = static fn (Says $says, string $sentence, Verdict $leaves): ProofLine => new ProofLine(
            ProofSource::Content,
            $says,
            $sentence,
            $looked->read,
            $leaves,
        );
        $names = Words::many($traces->named, 'reference').($traces->named === 1 ? ' names it' : ' name it');

        return match (true) {
            $traces->isMissing => $line(
                Says::NotKnown,
                'Its own file is not there, so nothing can be laid to rest: find it, or take its row out.',
                Verdict::Ask,
            ),
            $looked->read === null => $line(Says::NotKnown, 'The site was never read as a whole.', Verdict::Ask),
            $traces->sharedBy !== '' && $traces->standing !== Standing::Live => $line(
                Says::Against,
                "“{$traces->sharedBy}” keeps the same file, and uses it.",
                Verdict::Needed,
            ),
            $traces->standing === Standing::Live && $traces->named > 0 => $line(
                Says::Against,
                "$names, and visitors meet it.",
                Verdict::Needed,
            ),
            $traces->standing === Standing::Waiting && $traces->named > 0 => $line(
                Says::Against,
                "$names in drafts, in what is planned, or in carriers that nothing shows yet.",
                Verdict::Needed,
            ),
            $traces->named > 0 => $line(
                Says::Against,
                "$names, but only in what is expired, binned or a past version.",
                Verdict::Ask,
            ),
            $traces->isPickedById => $line(
                Says::NotKnown,
                'Records name its item by number, so the site’s own code picks the size; content cannot say whether it '
                    .'picks this one.',
                // What pages show and what is asked for says it.
                Verdict::Safe,
            ),
            $looked->unread > 0 => $line(
                Says::NotKnown,
                'Nothing that was read names it, but '.Words::many($looked->unread, 'thing').' could not be read.',
                Verdict::Ask,
            ),
            default => $line(Says::For, 'Nothing in the content names it.', Verdict::Safe),
        };
    }

    private static function code(Traces $traces, Looked $looked): ProofLine
    {
        $line = static fn (Says $says, string $sentence, Verdict $leaves): ProofLine => new ProofLine(
            ProofSource::Code,
            $says,
            $sentence,
            $looked->read,
            $leaves,
        );

        return match (true) {
            $traces->isCode => $line(Says::Against, 'The site’s own code consists of it.', Verdict::Needed),
            $traces->coded > 0 => $line(
                Says::Against,
                'The site’s own code names it: '
                    .$traces->codedAt.
                    ($traces->coded > 1 ? ' and '.Words::many($traces->coded - 1, 'more place') : '')
                    .'.',
                Verdict::Needed,
            ),
            ! $looked->knowsCode => $line(
                Says::NotKnown,
                'The field map does not say where the site’s templates and styles lie (code).',
                Verdict::Ask,
            ),
            $looked->leftCode > 0 => $line(
                Says::NotKnown,
                'Not all of the site’s code could be looked into'.self::because($looked->leftCode, $looked->whyCode),
                Verdict::Ask,
            ),
            $looked->codeFiles === 0 => $line(
                Says::For,
                'The field map says that the site has no code of its own.',
                Verdict::Safe,
            ),
            default => $line(
                Says::For,
                'None of '.Words::many($looked->codeFiles, 'file').' of the site’s code names it.',
                Verdict::Safe,
            ),
        };
    }

    private static function mentions(Traces $traces, Looked $looked): ProofLine
    {
        $line = static fn (Says $says, string $sentence, Verdict $leaves): ProofLine => new ProofLine(
            ProofSource::Mentions,
            $says,
            $sentence,
            $looked->read,
            $leaves,
        );
        $names = Words::many($traces->mentions, 'place').($traces->mentions === 1 ? ' names it' : ' name it')
            .' in a way that is not read';

        return match (true) {
            $traces->mentions > 0 => $line(
                $traces->isNamedWhole ? Says::Against : Says::NotKnown,
                "$names: $traces->mentionedAt".($traces->mentions > 1 ? ', for one.' : '.'),
                Verdict::Ask,
            ),
            $traces->meant > 0 => $line(
                Says::NotKnown,
                Words::many($traces->meant, 'address', 'addresses').' without a file may mean it.',
                Verdict::Ask,
            ),
            $looked->tables === null => $line(
                Says::NotKnown,
                'What the field map leaves out was never searched; read the site again.',
                Verdict::Ask,
            ),
            $looked->left > 0 => $line(
                Says::NotKnown,
                'Not everything beside the field map could be searched'.self::because($looked->left, $looked->why),
                Verdict::Ask,
            ),
            default => $line(
                Says::For,
                'Nothing else names it, in '.Words::many($looked->tables, 'table').' and '
                    .Words::many($looked->files, 'file').' beside what is read.',
                Verdict::Safe,
            ),
        };
    }

    /** How much was not looked into, and why for one of it. */
    private static function because(int $count, string $why): string
    {
        return ($count > 1 ? ' ('.Words::many($count, 'thing').')' : '').': '.rtrim($why, '.').'.';
    }

    private static function survey(Traces $traces, Looked $looked): ProofLine
    {
        $line = static fn (Says $says, string $sentence, Verdict $leaves): ProofLine => new ProofLine(
            ProofSource::Survey,
            $says,
            $sentence,
            $looked->surveyed,
            $leaves,
        );

        return match (true) {
            $traces->seen > 0 => $line(
                Says::Against,
                'It was seen on '.Words::many($traces->seen, 'public page').'.',
                Verdict::Needed,
            ),
            $looked->surveyed === null => $line(
                Says::NotKnown,
                'The public site was never surveyed as a whole.',
                Verdict::Ask,
            ),
            $looked->surveyed < $looked->now - self::SURVEY_DAYS * self::DAY => $line(
                Says::NotKnown,
                'The last survey is older than '.self::SURVEY_DAYS.' days.',
                Verdict::Ask,
            ),
            default => $line(Says::For, 'No public page was seen to show it.', Verdict::Safe),
        };
    }

    private static function log(Traces $traces, Looked $looked): ProofLine
    {
        $line = static fn (Says $says, string $sentence, Verdict $leaves): ProofLine => new ProofLine(
            ProofSource::Log,
            $says,
            $sentence,
            $looked->logUntil,
            $leaves,
        );
        $people = $traces->visitors + $traces->otherSites + $traces->mail;
        $isRecent = $traces->lastPerson !== null && $traces->lastPerson > $looked->now - self::ASKED_DAYS * self::DAY;
        $days =
            $looked->logFrom === null || $looked->logUntil === null
                ? 0
                : intdiv($looked->logUntil - $looked->logFrom, self::DAY);

        return match (true) {
            $people > 0 && $isRecent => $line(Says::Against, self::whoAsked($traces), Verdict::Ask),
            $looked->logUntil === null => $line(
                Says::NotKnown,
                $looked->logDoubt
                    ?? 'No access log was read, so nobody knows whether other sites or mails show it.',
                Verdict::Ask,
            ),
            $looked->logUntil < $looked->now - self::LOG_AGE_DAYS * self::DAY => $line(
                Says::NotKnown,
                'The access log that was read ends '
                    .intdiv($looked->now - $looked->logUntil, self::DAY)
                    .' days ago.',
                Verdict::Ask,
            ),
            $days < self::LOG_DAYS => $line(
                Says::NotKnown,
                'The access log covers only '.
                    Words::many($days, 'day')
                    .'; it takes '
                    .self::LOG_DAYS.
                    ' to tell.',
                Verdict::Ask,
            ),
            default => $line(
                Says::For,
                ($traces->robots > 0
                    ? 'Only robots asked for it ('.number_format($traces->robots).' times)'
                    : 'Nobody asked for it')
                    .' in '.
                    Words::many($days, 'day')
                    .' of the access log.',
                Verdict::Safe,
            ),
        };
    }

    private static function whoAsked(Traces $traces): string
    {
        $who = array_keys(
            array_filter([
                Words::many($traces->visitors, 'visitor') => $traces->visitors,
                Words::many($traces->otherSites, 'time')
                .' from other sites'
                .($traces->otherPage === '' ? '' : " ($traces->otherPage)") => $traces->otherSites,
                Words::many($traces->mail, 'time').' from mail' => $traces->mail,
            ]),
        );

        return 'It was asked for: '.implode(', ', $who).'.';
    }

    private static function age(Traces $traces, Looked $looked): ProofLine
    {
        $line = static fn (Says $says, string $sentence, Verdict $leaves): ProofLine => new ProofLine(
            ProofSource::Age,
            $says,
            $sentence,
            $traces->modified,
            $leaves,
        );
        $days = $traces->modified === null ? null : max(0, intdiv($looked->now - $traces->modified, self::DAY));

        return match (true) {
            $days === null => $line(Says::NotKnown, 'When it came is not known.', Verdict::Safe),
            $days < self::NEW_DAYS => $line(
                Says::Against,
                'It came '
                    .($days === 0 ? 'today' : Words::many($days, 'day').' ago')
                    .', so it may be about to be used.',
                Verdict::Ask,
            ),
            default => $line(
                Says::For,
                'It has lain here for '
                    .($days < 730 ? Words::many($days, 'day') : intdiv($days, 365).' years')
                    .'.',
                Verdict::Safe,
            ),
        };
    }

    private static function copies(Traces $traces): ProofLine
    {
        return $traces->copies > 0
            ? new ProofLine(
                ProofSource::Copies,
                Says::For,
                Words::many($traces->copies, 'other file')
                    .' with the same bytes '
                    .($traces->copies === 1 ? 'stays.' : 'stay.'),
                null,
                Verdict::Safe,
            )
            : // Resting keeps it whole, so this alone keeps nobody from it.
            new ProofLine(
                ProofSource::Copies,
                Says::Against,
                'No other file of the site has its bytes; its rest keeps it whole.',
                null,
                Verdict::Safe,
            );
    }
}
