<?php

declare(strict_types=1);

/*
 * What a runner of tests wrote down in JUnit's form: its slowest tests, or each that failed, with its reason.
 *
 *     php tests/report.php slowest|failures FILE
 */

const SLOWEST = 10;
const LINES = 25;

// Names of data sets hold bytes that XML does not allow (XML 1.0, 2.2), and the runner writes them all the same.
$text = preg_replace('~[^\x09\x0A\x0D\x20-\x7E]~', '?', (string) @file_get_contents($argv[2] ?? '')) ?? '';
libxml_use_internal_errors(true);
$report = new DOMDocument();
$report->recover = true;
if ($text === '' || ! $report->loadXML($text, LIBXML_PARSEHUGE)) {
    exit(0);
}
$cases = iterator_to_array($report->getElementsByTagName('testcase'));
$name = static fn (DOMElement $case): string => mb_strimwidth(
    str_replace('__pest_evaluable_', '', "{$case->getAttribute('classname')} > {$case->getAttribute('name')}"),
    0,
    160,
    '…',
);

if (($argv[1] ?? '') === 'slowest') {
    $seconds = static fn (DOMElement $case): float => (float) $case->getAttribute('time');
    usort($cases, static fn (DOMElement $a, DOMElement $b): int => $seconds($b) <=> $seconds($a));
    echo "\n  The slowest, by the clock:\n";
    foreach (array_slice($cases, 0, SLOWEST) as $case) {
        printf("  %7.2f s  %s\n", $seconds($case), $name($case));
    }
    exit(0);
}

foreach ($cases as $case) {
    foreach (['failure', 'error'] as $kind) {
        foreach ($case->getElementsByTagName($kind) as $why) {
            $lines = explode("\n", trim($why->textContent));
            echo "  {$name($case)}\n    ", implode("\n    ", array_slice($lines, 0, LINES)), "\n\n";
        }
    }
}
