<?php

declare(strict_types=1);

/*
 * What bin/test says of a run, and which tests it takes for those that a change asks for.
 */

/** @return list<string> */
function script(string ...$arguments): array
{
    $command = [PHP_BINARY, dirname(__DIR__)."/$arguments[0]", ...array_slice($arguments, 1)];

    return explode("\n", rtrim((string) shell_exec(implode(' ', array_map(escapeshellarg(...), $command)))));
}

beforeEach(function (): void {
    $this->file = (string) tempnam(sys_get_temp_dir(), 'report');
    // Bytes that XML does not allow stand in names of data sets.
    file_put_contents(
        $this->file,
        "<testsuites><testsuite><testcase name=\"it reads \x00\xFF\" classname=\"A\" time=\"0.5\"/>"
            .'<testcase name="it writes" classname="B" time="2.25"><failure>Expected 1.'."\n".'at B.php:3</failure>'
            .'</testcase><testcase name="it rests" classname="C" time="1"/></testsuite></testsuites>',
    );
});

afterEach(fn () => unlink($this->file));

it('names the slowest tests first', function (): void {
    $says = script('report.php', 'slowest', $this->file);
    expect(array_map(trim(...), array_slice($says, -3)))
        ->toBe(['2.25 s  B > it writes', '1.00 s  C > it rests', '0.50 s  A > it reads ??']);
});

it('says each failure with its reason, and nothing of what passed', function (): void {
    $says = implode("\n", script('report.php', 'failures', $this->file));
    expect($says)
        ->toContain('B > it writes')
        ->toContain('Expected 1.')
        ->toContain('at B.php:3')
        ->not->toContain('rests');
});

it('says nothing of a run that wrote nothing down', function (): void {
    expect(script('report.php', 'failures', "$this->file.none"))->toBe(['']);
});

it('takes the tests that name a changed class, and in core those nearby', function (): void {
    $says = script('changed.php', 'core/Imaging/Crop.php', 'resources/ts/App.tsx', 'tests/Browser/RestTest.php');
    expect($says)
        ->toContain('php core/Imaging/Crop.php')
        ->toContain('ts resources/ts/App.tsx')
        ->toContain('core tests/Core/Imaging/CropTest.php')
        ->toContain('not tests/Browser/RestTest.php')
        ->not->toContain('core tests/Core/Logs/LogTest.php')
        ->not->toContain('app tests/App/SurveyTest.php');
});
