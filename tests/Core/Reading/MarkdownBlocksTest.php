<?php

declare(strict_types=1);

use League\CommonMark\CommonMarkConverter;
use Ylema\Reading\FieldReader;
use Ylema\Reading\Notation;
use Ylema\Reading\Reference;
use Ylema\Reading\Rules;

/** @return list<string> */
function markdownValues(string $text): array
{
    return array_map(
        static fn (Reference $r): string => $r->value,
        (new FieldReader())->read($text, Notation::Markdown, new Rules())->references,
    );
}

$blocks = [
    'fenced code' => ["```\n![](/no.jpg)\n```\n![](/yes.jpg)", ['/yes.jpg']],
    'a fence of waves' => ["~~~ txt\n![](/no.jpg)\n~~~~\n![](/yes.jpg)", ['/yes.jpg']],
    'a fence that nothing closes' => ["![](/yes.jpg)\n\n```\n![](/no.jpg)\n\n![](/no.jpg)", ['/yes.jpg']],
    'a shorter fence closes nothing' => ["````\n```\n![](/no.jpg)\n````\n![](/yes.jpg)", ['/yes.jpg']],
    'backticks in the words behind a fence' => ["``` a`b\n![](/yes.jpg)\n```", ['/yes.jpg']],
    'indented code' => ["words\n\n    ![](/no.jpg)\n\n![](/yes.jpg)", ['/yes.jpg']],
    'indented by a tab' => ["words\n\n\t![](/no.jpg)\n", []],
    'indented at the beginning' => ["    ![](/no.jpg)\n\n![](/yes.jpg)", ['/yes.jpg']],
    'an indented line of a paragraph' => ["words\n    ![](/yes.jpg)", ['/yes.jpg']],
    'indented behind a heading' => ["# Words\n    ![](/no.jpg)", []],
    'an item that goes on, by four blanks' => ["- item\n\n    ![](/yes.jpg)", ['/yes.jpg']],
    'an item that goes on, by a tab' => ["- item\n\n\t![](/yes.jpg)", ['/yes.jpg']],
    'a numbered item that goes on' => ["1. item\n\n    ![](/yes.jpg)", ['/yes.jpg']],
    'an item in an item' => ["- one\n    - two\n\n        ![](/yes.jpg)", ['/yes.jpg']],
    'code in an item' => ["- item\n\n      ![](/no.jpg)", []],
    'code that begins an item' => ['-     ![](/no.jpg)', []],
    'a fence behind a bullet' => ["- ```\n  ![](/no.jpg)\n  ```\n- ![](/yes.jpg)", ['/yes.jpg']],
    'a fence in a numbered item' => ["1. one\n\n   ```\n   ![](/no.jpg)\n   ```\n\n   ![](/yes.jpg)", ['/yes.jpg']],
    'a fence that its item ends' => ["- ```\n  ![](/no.jpg)\n\n![](/yes.jpg)", ['/yes.jpg']],
    'code in a quote' => [">     ![](/no.jpg)\n>\n> ![](/yes.jpg)", ['/yes.jpg']],
    'a fence in a quote' => ["> ```\n> ![](/no.jpg)\n> ```\n> ![](/yes.jpg)", ['/yes.jpg']],
    'a fence that its quote ends' => ["> ```\n> ![](/no.jpg)\n![](/yes.jpg)", ['/yes.jpg']],
    'an item in a quote' => ["> - item\n>\n>     ![](/yes.jpg)", ['/yes.jpg']],
    'a paragraph that goes on without its mark' => ["> words\n    ![](/yes.jpg)", ['/yes.jpg']],
    'a list behind a list' => ["- item\n\nwords\n\n    ![](/no.jpg)", []],
    'a break that looks like items' => ["* * *\n\n    ![](/no.jpg)", []],
    'a number that cannot interrupt' => ["words\n2. more\n\n    ![](/no.jpg)", []],
    'an empty item' => ["-\n\n    ![](/no.jpg)", []],
    'an empty item that goes on at once' => ["-\n    ![](/yes.jpg)", ['/yes.jpg']],
    'a fence in markup is none' => ["<pre>\n```\n</pre>\n\n![](/yes.jpg)", ['/yes.jpg']],
    'nor in a block of markup' => [
        "<div>\n```\n<img src=\"/yes.jpg\">\n</div>\n\n![](/yes.jpg)",
        ['/yes.jpg', '/yes.jpg'],
    ],
    'a blank line ends the block' => ["<div>\n\n```\n![](/no.jpg)\n```\n\n![](/yes.jpg)", ['/yes.jpg']],
    'a line of one tag' => ["<b class='x'>\n```\n<img src=\"/yes.jpg\">\n\n![](/yes.jpg)", ['/yes.jpg', '/yes.jpg']],
    'a line of one tag in a paragraph' => ["words\n<b>\n```\n![](/no.jpg)", []],
    'a line of a tag and words' => ["<b>words\n```\n![](/no.jpg)", []],
    'an indented line in a block' => ["<ul>\n    <img src=\"/yes.jpg\">\n</ul>\n\n    ![](/no.jpg)", ['/yes.jpg']],
    'a block in an item' => ["- <div>\n  ```\n  <img src=\"/yes.jpg\">\n\n      ![](/no.jpg)", ['/yes.jpg']],
    'nor in a comment' => ["<!--\n```\n\n-->\n![](/yes.jpg)", ['/yes.jpg']],
];

it('knows what is code', function (string $text, array $values): void {
    expect(markdownValues($text))->toBe($values);
})->with($blocks);

it('agrees with another parser of CommonMark on what is code', function (string $text, array $values): void {
    $html = (string) (new CommonMarkConverter())->convert($text);
    preg_match_all('~<img src="([^"]*)"~', $html, $shown);
    expect($shown[1])->toBe($values);
})->with($blocks);

it('reads Markdown with all ends of lines alike', function (string $text): void {
    $values = markdownValues($text);
    foreach (["\r\n", "\r"] as $end) {
        expect(markdownValues(str_replace("\n", $end, $text)))->toBe($values);
    }
})->with([
    ...array_column($blocks, 0),
    "[one]: /media/one.jpg\n[two]:\n  </media/two.jpg>\n  'Title'\n\n![one] ![two]",
    "---\ncover: /media/c.jpg\npictures:\n  - \"/media/d.jpg\"\n  - { src: '/media/e.jpg' }\ntext: |\n  <img src=/media/f.jpg>\n---\n![](/g.jpg)",
    "<div>\n<img\n  src=\"/media/a.jpg\"\n  srcset=\"/media/b.jpg 1x,\n  /media/c.jpg 2x\">\n</div>",
    "![words\nover lines](/media/a.jpg\n\"title\nover lines\")",
    "`code\n![](/no.jpg)` ![](/yes.jpg)",
]);

it('keeps the places of a text with both ends of lines', function (): void {
    $text = "a\r\n\r\n![x](/media/a.jpg)\r\n\r\n[b]: /media/b.jpg\r\n<img src='/media/c.jpg'>\r\n";
    $references = (new FieldReader())->read($text, Notation::Markdown, new Rules())->references;
    expect($references)->toHaveCount(3);
    foreach ($references as $reference) {
        expect(substr($text, $reference->start, $reference->length))->toBe($reference->value);
    }
});

it('takes the size behind an address for no part of it', function (string $size): void {
    expect(markdownValues("![a](/media/a.jpg $size) ![b](/media/b.jpg)"))->toBe(['/media/a.jpg', '/media/b.jpg']);
})->with(['=300x200', '=300x', '=x200', '=50%', '=50%x', '"Title" =300x200', '=300x200 "Title"']);
