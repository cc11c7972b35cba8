<?php

declare(strict_types=1);

namespace App\Reading;

use App\Support\BulkRows;
use Illuminate\Support\Facades\DB;
use Ylema\Net\Mention;
use Ylema\Net\Strength;
use Ylema\Sites\SourceRecord;

/** The mentions that one chunk of a reading found, on their way into the index. */
final class StagedMentions
{
    public const CONTENT = 'content';

    public const CODE = 'code';

    public const TABLE = 'table';

    public const FILE = 'file';

    /** What stands there is the path of a file of code, and names nothing. */
    public const ITSELF = 'itself';

    /** Of one name at one place that many are kept, and there are more. */
    private const EACH = 20;

    /** Places of a plain word that make it one of the site's own words. */
    public const WORDS = 3;

    private readonly BulkRows $rows;

    /** @var array<string, int> */
    private array $counts = [];

    /** @param  array<array-key, true>  $words names that are plain words here */
    public function __construct(
        private readonly int $reading,
        private readonly ?int $chunk,
        private readonly array $words,
    ) {
        $this->rows = new BulkRows('staged_mentions', [
            'reading_id', 'chunk_id', 'kind', 'key', 'source', 'place', 'at', 'field', 'start', 'length', 'line',
            'folder', 'stem', 'ending', 'item', 'strength',
        ]);
    }

    public static function clear(int $chunk): void
    {
        DB::table('staged_mentions')->where('chunk_id', $chunk)->delete();
    }

    /** @param  list<Mention>  $mentions of a field of a record */
    public function inRecord(SourceRecord $record, string $field, array $mentions): void
    {
        foreach ($mentions as $mention) {
            $this->add($mention, [$record->kind, $record->key], self::CONTENT, '', '', $field, null);
        }
    }

    /**
     * @param  string  $source CODE, TABLE or FILE
     * @param  string  $place `table.column`, or the path of a file
     * @param  string  $at the key of the row
     */
    public function beside(Mention $mention, string $source, string $place, string $at, ?int $line): void
    {
        $this->add($mention, [null, null], $source, $place, $at, '', $line);
    }

    /** A file that the site's own code consists of. */
    public function isCode(string $path): void
    {
        $this->rows->add([
            $this->reading, $this->chunk, null, null, self::ITSELF, $path, '', '', 0, 0, null, '', '', '', null, '',
        ]);
    }

    public function flush(): void
    {
        $this->rows->flush();
    }

    /** @param  array{string|null, string|null}  $record */
    private function add(
        Mention $mention,
        array $record,
        string $source,
        string $place,
        string $at,
        string $field,
        ?int $line,
    ): void {
        $isWord = $mention->strength === Strength::Word;
        if ($isWord && isset($this->words[$mention->stem])) {
            return;
        }
        $of = $isWord ? "word $mention->stem" : implode("\0", [$place, ...$record, $field, $mention->said()]);
        $this->counts[$of] = ($this->counts[$of] ?? 0) + 1;
        if ($this->counts[$of] > ($isWord ? self::WORDS + 1 : self::EACH)) {
            return;
        }
        $this->rows->add([
            $this->reading, $this->chunk, ...$record, $source, $place, $at, $field, $mention->start, $mention->length,
            $line, $mention->folder, $mention->stem, $mention->ending, $mention->item, $mention->strength->value,
        ]);
    }
}
