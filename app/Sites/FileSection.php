<?php

declare(strict_types=1);

namespace App\Sites;

use Ylema\Reading\Notation;

/** Reads the section of a kind of record whose records are files. */
final readonly class FileSection
{
    /** What may be said of a kind of files. */
    public const LINES = [
        'files',
        'notation',
        'paths',
        'role',
        'title',
        'address',
        'page',
        'everywhere',
        'state',
        'dates',
        'spell',
        'facts',
        'read_only',
    ];

    /** What is read of pages that a visitor opens; the rest stands behind them. */
    private const PAGES = [Notation::Html, Notation::Markdown];

    /** What pages fetch, so that what stands in it is met on them. */
    private const FETCHED = [Notation::Css, Notation::JavaScript];

    public function __construct(private KindSection $kinds)
    {
    }

    /** @throws FieldMapError */
    public function kind(string $kind, MapNode $section): KindMap
    {
        $section->only(self::LINES);
        $patterns = $section->texts('files');
        if ($patterns === []) {
            throw $section->wrong('files', 'patterns of paths belong here, such as "**/*.html".');
        }
        $notation = $section->notation('notation', $section->place().'.notation');
        $isPage = $section->flag('page', in_array($notation, self::PAGES, true));
        $addresses = array_map(static fn (string $a): Template => new Template($a), $section->texts('address'));
        // What is served is served at its path, and a style sheet's addresses start there.
        if ($addresses === [] && ($isPage || in_array($notation, self::FETCHED, true))) {
            $addresses = [Template::column('address')];
        }
        $dates = KindSection::dates($section, ['front' => new Join('front', '', [])]);
        $facts = [];
        $labels = $section->optional('facts', 'columns belong here, each under its label.');
        foreach ($labels->keys() as $label) {
            $facts[$label] = $labels->columnName($label, $labels->value($label));
        }
        $rule = $this->kinds->field(FileRow::TEXT, $section->part(['notation', 'paths', 'role']), []);
        $title = $section->text('title');

        return new KindMap(
            $kind,
            '',
            null,
            new RecordKey(['path']),
            $title === null
                ? Template::column('title')
                : new Template(str_contains($title, '{') ? $title : '{'.$title.'}'),
            $addresses,
            $addresses !== [] && $isPage,
            $section->flag('everywhere', false),
            KindSection::states($section, ['front' => new Join('front', '', [])], $dates),
            $facts,
            [FileRow::TEXT => new FieldColumn(FileRow::TEXT, null, ['' => $rule])],
            dates: $dates,
            spelt: KindSection::spelt($section, ['front' => new Join('front', '', [])]),
            isKept: $section->flag('read_only', false),
            patterns: $patterns,
        );
    }
}
