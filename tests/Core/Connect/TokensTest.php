<?php

declare(strict_types=1);

use Tests\Core\Connect\MadeSamples;
use Ylema\Addresses\SiteAddresses;
use Ylema\Connect\ColumnProfile;
use Ylema\Connect\ColumnType;
use Ylema\Connect\FileLookup;
use Ylema\Connect\Looker;
use Ylema\Connect\MediaTable;
use Ylema\Connect\OwnAddresses;
use Ylema\Connect\Relations;
use Ylema\Connect\TableProfile;
use Ylema\Connect\Tokens;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Rules;
use Ylema\Reading\TokenPattern;

/*
 * What editors write into text to place something, whatever signs the site's makers thought of.
 */

/** @return array<string, array<string, mixed>> what is proposed for texts of a site with pictures 3 to 9 */
function tokensIn(string ...$texts): array
{
    $numbers = array_map(strval(...), range(3, 9));
    $table = new TableProfile('ot_picture', 7, [
        'id' => new ColumnProfile('id', ColumnType::Number, $numbers),
        'path' => new ColumnProfile('path', ColumnType::Text, ['a.jpg']),
    ], [['id']]);
    $samples = new MadeSamples([], $numbers);
    $tables = ['ot_picture' => $table];
    $addresses = new SiteAddresses('https://x.example/');
    $files = new FileLookup(['a.jpg']);
    $looker = new Looker($addresses, $files, new OwnAddresses($files, $addresses, []));

    return (new Tokens(
        $tables,
        'ot_',
        new Relations($tables, 'ot_', $samples),
        $looker,
        new MediaTable($table, 'path', 1, 1),
    ))->in($texts)[0];
}

it('finds tokens of any shape, and a pattern that reads them', function (string $token): void {
    $text = "<p>Words $token and more ".strtr($token, ['7' => '4']).'</p>';
    $found = tokensIn($text);
    expect($found)->toHaveCount(1);
    $pattern = TokenPattern::of('t', (string) reset($found)['pattern'], null);
    $references = (new FieldReader())->read($text, Notation::Html, new Rules(tokens: [$pattern]))->references;
    expect(array_column($references, 'value'))->toBe(['7', '4']);
})->with([
    ['##photo(7,left)##'],
    ['##photo(7)##'],
    ['[[picture:7]]'],
    ['[[ picture=7 | wide ]]'],
    ['[picture 7]'],
    ['{picture:7}'],
    ['{{picture 7}}'],
    ['{{ picture(7) }}'],
    ['%picture:7%'],
    ['%%picture:7%%'],
    ['@photo(7)'],
    ['@picture[7]'],
    ['$picture{7}'],
    ['::picture[7]::'],
    ['!picture(7)!'],
    ['((picture 7))'],
    ['<<picture:7>>'],
    ['#picture/7#'],
    ['<!-- picture:7 -->'],
    ['<!--picture 7 wide-->'],
]);

it('takes nothing for a token that names nothing', function (string $text): void {
    expect(tokensIn($text))->toBe([]);
})->with([
    'ids that are not there' => ['[[picture:77]] [[picture:88]]'],
    'markup' => ['<picture 7><img width=7></picture> <a href="#photo-7">x</a>'],
    'style' => ['<style>.picture{7} #photo > 7 { width: 7px }</style>'],
    'words' => ['Our picture 7 (photo 7) is best: picture 7!'],
    'other names' => ['[[contact:7]] {{box 7}}'],
]);

it('learns nothing from what only shows how a token is written', function (): void {
    expect(tokensIn('<p><code>[[photo 3]]</code></p>', 'Write `[[photo 4]]`.', '<!-- [[photo 5]] -->'))->toBe([]);
});

it('learns tokens that are comments, and those in escapes', function (): void {
    expect(array_keys(tokensIn('<p>a <!--photo:3--></p>', '<p><!--photo:4--></p>')))->toBe(['photo'])
        ->and(array_keys(tokensIn('&lt;p&gt;[photo id=&quot;3&quot;]&lt;/p&gt;', '[photo id="4"]')))->toBe(['photo']);
});
