<?php

declare(strict_types=1);

use PhpParser\Node;
use PhpParser\Node\Expr\FuncCall;
use PhpParser\Node\Expr\MethodCall;
use PhpParser\Node\Expr\StaticCall;
use PhpParser\Node\Identifier;
use PhpParser\Node\Name;
use PhpParser\Node\Stmt\ClassMethod;
use PhpParser\NodeFinder;
use PhpParser\ParserFactory;

/** Namespaces of a framework, of the application, of the stand-ins, and of parsers of others. */
const STRANGERS = ['Illuminate', 'App', 'Standin', 'Laravel', 'Symfony', 'GuzzleHttp', 'League', 'Psr', 'Carbon'];

/** What reads or writes, waits, or asks for something that a caller did not give. */
const OUTSIDE = [
    'pdo', 'pdoexception', 'splfileobject', 'directoryiterator', 'curl_init', 'fopen', 'file', 'file_get_contents',
    'file_put_contents', 'readfile', 'is_file', 'is_dir', 'unlink', 'rename', 'mkdir', 'glob', 'scandir', 'getenv',
    'putenv', 'exec', 'shell_exec', 'proc_open', 'header', 'setcookie', 'time', 'microtime', 'date', 'rand', 'mt_rand',
    'random_int', 'echo', 'print', 'print_r', 'var_dump', 'sleep', 'usleep', 'imagecreatefromstring',
];

/** @return array<string, list<PhpToken>> file → what it is made of, without spaces and comments */
function coreInTokens(): array
{
    static $files = [];
    if ($files === []) {
        foreach (
            new RecursiveIteratorIterator(
                new RecursiveDirectoryIterator(__DIR__.'/../../core', FilesystemIterator::SKIP_DOTS),
            ) as $file
        ) {
            $files[(string) $file] = array_values(
                array_filter(
                    PhpToken::tokenize((string) file_get_contents((string) $file)),
                    static fn (PhpToken $token): bool => ! $token->isIgnorable(),
                ),
            );
        }
    }

    return $files;
}

/**
 * Names of classes that a file uses, wherever, and of functions that it calls: in lower case, from the root.
 *
 * @param  list<PhpToken>  $tokens
 * @return list<string>
 */
function namesUsed(array $tokens): array
{
    $names = [];
    foreach ($tokens as $i => $token) {
        $before = $tokens[$i - 1] ?? null;
        $isMember = $before?->is([T_OBJECT_OPERATOR, T_NULLSAFE_OBJECT_OPERATOR, T_DOUBLE_COLON, T_FUNCTION, T_CONST]);
        $isCalled = ($tokens[$i + 1] ?? null)?->text === '(' || $before?->is([T_USE, T_NEW, T_INSTANCEOF]);
        if (
            $token->is([T_NAME_FULLY_QUALIFIED, T_NAME_QUALIFIED, T_ECHO, T_PRINT])
            || ($token->is(T_STRING) && ! $isMember && $isCalled)
        ) {
            $names[] = strtolower(ltrim($token->text, '\\'));
        }
    }

    return array_values(array_unique($names));
}

it('knows no framework, no application, no stand-in and no parser of others, and does no input or output', function (
): void {
    $found = [];
    foreach (coreInTokens() as $file => $tokens) {
        foreach (namesUsed($tokens) as $name) {
            $isStrange = in_array(strstr("$name\\", '\\', true), array_map(strtolower(...), STRANGERS), true);
            if (($isStrange && str_contains($name, '\\')) || in_array($name, OUTSIDE, true)) {
                $found[] = "$file uses $name";
            }
        }
    }
    expect($found)->toBe([]);
});

it('would notice both', function (string $code, string $name): void {
    $tokens = array_filter(
        PhpToken::tokenize("<?php $code"),
        static fn (PhpToken $token): bool => ! $token->isIgnorable(),
    );
    expect(namesUsed(array_values($tokens)))->toContain($name);
})->with([
    ['use Illuminate\Support\Str;', 'illuminate\support\str'],
    ['new \App\Models\Site();', 'app\models\site'],
    ['use PDO;', 'pdo'],
    ['$a = \time();', 'time'],
    ['return file_get_contents($path);', 'file_get_contents'],
    ['echo $a;', 'echo'],
]);

it('is strict, and made of final classes', function (): void {
    $open = [];
    foreach (coreInTokens() as $file => $tokens) {
        if (implode('', array_column(array_slice($tokens, 0, 6), 'text')) !== 'declare(strict_types=1)') {
            $open[] = "$file is not strict";
        }
        foreach ($tokens as $i => $token) {
            $isDeclared = $token->is(T_CLASS) && ! ($tokens[$i - 1]->is([T_DOUBLE_COLON, T_NEW]));
            if ($isDeclared && ! $tokens[$i - 1]->is([T_FINAL, T_READONLY])) {
                $open[] = "$file holds a class that is not final";
            }
            if ($isDeclared && $tokens[$i - 1]->is(T_READONLY) && ! $tokens[$i - 2]->is(T_FINAL)) {
                $open[] = "$file holds a class that is not final";
            }
        }
    }
    expect($open)->toBe([]);
});

it('asks other servers in one place only', function (): void {
    $asking = [];
    foreach (
        new RecursiveIteratorIterator(
            new RecursiveDirectoryIterator(__DIR__.'/../../app', FilesystemIterator::SKIP_DOTS),
        ) as $file
    ) {
        $code = (string) file_get_contents((string) $file);
        $asks = '~\\b(?:GuzzleHttp\\\\Client|Facades\\\\Http|HttpClient|curl_\w+|f?sockopen|'
            .'stream_socket_client|gethostby\w+|dns_\w+|SoapClient)\\b|'
            .'(?:file_get_contents|fopen|copy|getimagesize)\\([\'"]https?:~';
        if (preg_match($asks, $code) === 1) {
            $asking[] = basename(dirname((string) $file));
        }
    }
    expect(array_unique($asking))->toBe(['Outgoing']);
});

it('holds no globals and no setters', function (): void {
    foreach (
        new RecursiveIteratorIterator(
            new RecursiveDirectoryIterator(__DIR__.'/../../core', FilesystemIterator::SKIP_DOTS),
        ) as $file
    ) {
        $code = (string) file_get_contents((string) $file);
        expect(
            preg_match(
                '~\$GLOBALS|\$_(?:GET|POST|SERVER|ENV|COOKIE|SESSION)\b|\bglobal \$|function set[A-Z]|eval\(~',
                $code,
            ),
        )->toBe(0, (string) $file);
    }
});

/** @return array<string, list<string>> folder → the folders that its files use */
function foldersUsed(string $root, string $namespace): array
{
    $uses = [];
    foreach (
        new RecursiveIteratorIterator(new RecursiveDirectoryIterator($root, FilesystemIterator::SKIP_DOTS)) as $file
    ) {
        $own = explode('/', substr((string) $file, strlen($root) + 1));
        if ($file->getExtension() !== 'php' || count($own) < 2) {
            continue;
        }
        $code = (string) file_get_contents((string) $file);
        preg_match_all('~\\\\?\b'.$namespace.'\\\\(\w+)\\\\~', $code, $m);
        foreach (array_unique($m[1]) as $used) {
            if ($used !== $own[0] && is_dir("$root/$used")) {
                $uses[$own[0]][] = $used;
            }
        }
    }

    return array_map(static fn (array $list): array => array_values(array_unique($list)), $uses);
}

it('has no two folders that use each other, however far around', function (string $folder, string $namespace): void {
    $uses = foldersUsed(__DIR__.'/../../'.$folder, $namespace);
    expect($uses)->not->toBeEmpty();
    foreach (array_keys($uses) as $from) {
        $reached = [];
        $next = $uses[$from];
        while ($next !== []) {
            $at = array_pop($next);
            if (! isset($reached[$at])) {
                $reached[$at] = true;
                array_push($next, ...$uses[$at] ?? []);
            }
        }
        expect(isset($reached[$from]))->toBeFalse(
            "$folder/$from leads back to itself through ".implode(', ', array_keys($reached)),
        );
    }
})->with([['core', 'Ylema'], ['app', 'App']]);

it('lets all its exceptions be known as its own', function (): void {
    foreach (['core' => 'Ylema', 'app' => 'App'] as $folder => $namespace) {
        foreach (
            new RecursiveIteratorIterator(
                new RecursiveDirectoryIterator(__DIR__."/../../$folder", FilesystemIterator::SKIP_DOTS),
            ) as $file
        ) {
            if (
                preg_match(
                    '~^final class (\w+) extends \w*Exception\b~m',
                    (string) file_get_contents((string) $file),
                    $m,
                ) === 1
            ) {
                $path = substr((string) $file, (int) strpos((string) $file, "/$folder/") + strlen($folder) + 2, -4);
                expect(is_a($namespace.'\\'.strtr($path, '/', '\\'), Ylema\Failure::class, true))->toBeTrue($path);
            }
        }
    }
});

it('keeps its lines short enough to be read side by side', function (): void {
    $long = [];
    foreach (['app', 'core', 'standin', 'config', 'database', 'routes'] as $folder) {
        foreach (
            new RecursiveIteratorIterator(
                new RecursiveDirectoryIterator(__DIR__."/../../$folder", FilesystemIterator::SKIP_DOTS),
            ) as $file
        ) {
            foreach ($file->getExtension() === 'php' ? file((string) $file) : [] as $n => $line) {
                // A pattern, a command's signature or the shape of a type is read as one word; nothing else is.
                preg_match_all('~"(?:[^"\\\\]|\\\\.)*+"|\'(?:[^\'\\\\]|\\\\.)*+\'~', $line, $texts);
                $longest = max([0, ...array_map(strlen(...), $texts[0])]);
                $isOneWord =
                    $longest > 50
                    || str_contains($line, 'array{')
                    || str_contains($line, '*+')
                    || str_contains($line, '(?:');
                if (mb_strlen(rtrim($line, "\n")) > 120 && ! $isOneWord) {
                    $long[] = substr((string) $file, (int) strpos((string) $file, "/$folder/") + 1).':'.($n + 1);
                }
            }
        }
    }
    expect($long)->toBe([]);
});

/**
 * Methods of readers that search without asking whether PCRE gave up, each with the reason why it cannot, or why it
 * does not matter there.
 */
const NEVER_GIVES_UP = [
    'one value, at most a few kilobytes' => [
        'ScriptType::notation', 'XmlReader::free', 'Pieces::whole', 'Pieces::isWhole', 'StructuredValues::ofLinkedData',
        'TextReader::isMoreThanOne', 'HtmlWalk::free', 'HtmlWalk::refresh', 'Embedded::value', 'SerializedReader::join',
        'ForeignContent::endsAt', 'Charset::labelIn', 'HtmlWalk::isDirect',
    ],
    'one escape or one word at a place' => [
        'XmlReader::decode', 'Pieces::unescape', 'JsonReader::decode', 'YamlValues::decode', 'TomlMatter::decode',
        'RawTextEnd::next',
    ],
    'one line, which Blocks::of() asks about' => [
        'Blocks::code', 'Blocks::startsBlock', 'Blocks::item', 'Blocks::leaf', 'Blocks::isUnderline',
    ],
    'whatever is not plain is read the long way' => ['SrcsetReader::plain', 'SrcsetReader::descriptorsParse'],
    'a replacement of single characters' => ['MarkdownReader::blank', 'CssReader::isUnconditional'],
    'a test of the encoding' => ['LegacyDecoder::isNeeded'],
    'the first kilobyte' => ['Declaration::of', 'Declaration::first', 'Declaration::prescan', 'Declaration::ofMeta'],
    'words for the eye, of which none is better than half' => ['Charset::text'],
];

it('asks behind every search of a reader whether PCRE gave up', function (): void {
    $parser = (new ParserFactory())->createForHostVersion();
    $finder = new NodeFinder();
    $searches = static fn (Node $node): bool => $node instanceof FuncCall
        && $node->name instanceof Name
        && preg_match('~^preg_(?!quote|last_error)~', $node->name->toString()) === 1;
    $asks = static fn (Node $node): bool => ($node instanceof MethodCall
        && $node->name instanceof Identifier
        && $node->name->name === 'gaveUp')
        || ($node instanceof FuncCall
            && $node->name instanceof Name
            && str_starts_with($node->name->toString(), 'preg_last_error'))
        || ($node instanceof StaticCall && $node->class instanceof Name && $node->class->getLast() === 'PatternGaveUp');
    $silent = $known = [];
    foreach (['Readers', 'Encoding'] as $folder) {
        $files = new RecursiveDirectoryIterator(__DIR__."/../../core/Reading/$folder", FilesystemIterator::SKIP_DOTS);
        foreach (new RecursiveIteratorIterator($files) as $file) {
            $tree = $parser->parse((string) file_get_contents((string) $file)) ?? [];
            foreach ($finder->findInstanceOf($tree, ClassMethod::class) as $method) {
                $name = basename((string) $file, '.php')."::{$method->name->name}";
                $isSilent = $finder->findFirst([$method], $searches) !== null
                    && $finder->findFirst([$method], $asks) === null;
                if (! $isSilent) {
                    continue;
                }
                in_array($name, array_merge(...array_values(NEVER_GIVES_UP)), true)
                    ? ($known[] = $name)
                    : ($silent[] = $name);
            }
        }
    }
    // What is listed and not there any more would excuse another of that name.
    $gone = array_diff(array_merge(...array_values(NEVER_GIVES_UP)), $known);
    expect($silent)->toBe([])->and(array_values($gone))->toBe([]);
});
