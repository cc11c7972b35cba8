<?php

declare(strict_types=1);

namespace Ylema\Reading;

/** How a field is written. The values are the words used in field maps and in the API. */
enum Notation: string
{
    case Html = 'html';
    case Css = 'css';
    case Srcset = 'srcset';
    case Json = 'json';
    case PhpSerialized = 'php-serialized';
    case Markdown = 'markdown';
    case Yaml = 'yaml';
    case Csv = 'csv';
    case Xml = 'xml';
    case JavaScript = 'javascript';
    case Text = 'text';
    case Url = 'url';
    /** Several addresses in one value, between commas or bars. */
    case Addresses = 'addresses';
    case MediaId = 'media-id';
    case RecordKey = 'record-key';
    case Token = 'token';
}
