<?php

declare(strict_types=1);

use App\Sites\FieldRule;
use App\Sites\Packed\Packing;
use Ylema\Reading\Notation;

/*
 * Texts that sites keep otherwise than as they are: read, and packed again as they were.
 */

it('packs a text as it was, and another one in the same way', function (
    Packing $packing,
    string $raw,
    string $text,
    string $other,
    string $packed,
): void {
    $open = $packing->open($raw);
    expect($open?->text())
        ->toBe($text)
        ->and($open?->pack($text))
        ->toBe($raw)
        ->and($open?->pack($other))
        ->toBe($packed);
})->with([
    'without padding' => [Packing::Base64, 'YWE', 'aa', 'a', 'YQ'],
    'for addresses' => [Packing::Base64, '_-_-', "\xFF\xEF\xFE", "\xFB\xFF", '-_8='],
    'in lines' => [
        Packing::Base64, rtrim(chunk_split(str_repeat('YWFh', 20), 64, "\n")), str_repeat('aaa', 20), 'bbb', 'YmJi',
    ],
    'both quotes escaped' => [Packing::Escaped, '&lt;b title=&quot;&#039;&quot;&gt;', '<b title="\'">', '"', '&quot;'],
    'one quote escaped' => [Packing::Escaped, '&lt;b title=&quot;\'&quot;&gt;', '<b title="\'">', "'", "'"],
    'no quote escaped' => [Packing::Escaped, '&lt;b title="x"&gt;', '<b title="x">', '"&"', '"&amp;"'],
    'entities escaped as well' => [Packing::Escaped, '&lt;b&gt;&amp;eacute;', '<b>&eacute;', '&uuml;', '&amp;uuml;'],
    'entities as they were' => [Packing::Escaped, '&lt;b&gt;&eacute;', '<b>&eacute;', '&uuml;<', '&uuml;&lt;'],
    'bytes of an older encoding' => [Packing::Escaped, "&lt;b&gt;\xE9", "<b>\xE9", "\xFC<", "\xFC&lt;"],
    'all slashes' => [Packing::Slashed, 'It\\\'s \\"x\\" \\\\', 'It\'s "x" \\', '"\\', '\\"\\\\'],
    'slashes before one quote' => [Packing::Slashed, 'It\'s \\"x\\"', 'It\'s "x"', '\'"', '\'\\"'],
]);

it('leaves what is not packed so', function (Packing $packing, string $raw): void {
    expect($packing->open($raw))->toBeNull();
})->with([
    [Packing::Base64, 'no base64!'],
    [Packing::Base64, ''],
    'another length of lines' => [Packing::Base64, "YWFh\nYWFh\nYWFh"],
    [Packing::Escaped, '&lt;b&gt; <i>'],
    [Packing::Slashed, 'one \\"slashed\\" and one "not"'],
]);

it('writes nothing that undo could not take back to the byte', function (): void {
    $rule = new FieldRule('value', Notation::Text, packing: Packing::Base64);
    expect($rule->rawOf('a', 'YWE'))
        ->toBe('YQ')
        // Three bytes need no padding, so it could not be told that there was none.
        ->and($rule->rawOf('aaa', 'YWE'))
        ->toBeNull()
        ->and($rule->rawOf('aaa', 'YWE='))
        ->toBe('YWFh');
    $escaped = new FieldRule('value', Notation::Html, packing: Packing::Escaped);
    expect($escaped->rawOf('<b>x</b>', "&lt;b title='x'&gt;"))
        ->toBeNull()
        ->and($escaped->rawOf('<b>x</b>', '&lt;b title=&quot;x&quot;&gt;'))
        ->toBe('&lt;b&gt;x&lt;/b&gt;');
});
