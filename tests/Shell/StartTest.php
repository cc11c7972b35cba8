<?php

declare(strict_types=1);

/*
 * What bin/demo and bin/test are made of, asked as a shell would. None of this needs a database.
 */

/** @return array{int, string} what a script said, and with which code it ended */
function shell(string $script, string $root, string $path = '/usr/sbin:/usr/bin:/sbin:/bin'): array
{
    $var = "$root/var";
    $process = proc_open(
        ['bash', '-c', "source '$root/bin/lib.sh'; $script"],
        [0 => ['file', '/dev/null', 'r'], 1 => ['pipe', 'w'], 2 => ['redirect', 1]],
        $pipes,
        $root,
        ['PATH' => $path, 'YLEMA_VAR' => $var, 'HOME' => $root],
    );
    $says = (string) stream_get_contents($pipes[1]);

    return [proc_close($process), $says];
}

beforeEach(function (): void {
    $this->root = sys_get_temp_dir().'/ylema-shell-'.bin2hex(random_bytes(4));
    mkdir("$this->root/bin", 0o755, true);
    copy(dirname(__DIR__, 2).'/bin/lib.sh', "$this->root/bin/lib.sh");
});

afterEach(function (): void {
    chmod($this->root, 0o755);
    shell_exec('rm -rf '.escapeshellarg($this->root));
});

it('says on the screen whose checkout it is, where one cannot write to it', function (): void {
    chmod($this->root, 0o555);
    [$code, $says] = shell('choose_user', $this->root);
    expect($code)->toBe(1)->and($says)->toContain('this checkout belongs to')->toContain('cannot write to it');
});

it('says on the screen which packages are missing, where nobody may install them', function (): void {
    // A machine without sudo: everything else that is needed is there.
    mkdir("$this->root/tools");
    foreach (['bash', 'id', 'dpkg-query', 'grep', 'dirname', 'mkdir', 'tail', 'env'] as $tool) {
        symlink(trim((string) shell_exec("command -v $tool")), "$this->root/tools/$tool");
    }
    $install = 'mkdir -p "$YLEMA_VAR/log"; install_packages no-such-thing';
    [$code, $says] = shell($install, $this->root, "$this->root/tools");
    expect($code)
        ->toBe(1)
        ->and($says)
        ->toContain('are missing')
        ->toContain('apt-get install --no-install-recommends no-such-thing');
});

it('leaves nothing that keeps it from starting again when it is killed', function (): void {
    $script = <<<'SH'
        choose_user; own_var
        exec 9>"$YLEMA_VAR/run/lock"; flock -n 9 || fail 'it is running already'
        launch "$YLEMA_VAR/log/one.log" bash -c 'echo $$ >"$YLEMA_VAR/run/one.pid"; exec sleep 60'
        launch "$YLEMA_VAR/log/two.log" "$KEEP" bash -c 'echo $$ >"$YLEMA_VAR/run/two.pid"; exec sleep 60'
        until [ -s "$YLEMA_VAR/run/one.pid" ] && [ -s "$YLEMA_VAR/run/two.pid" ]; do sleep 0.05; done
        kill -9 $$
        SH;
    copy(dirname(__DIR__, 2).'/etc/keep', "$this->root/keep");
    chmod("$this->root/keep", 0o755);
    [$code] = shell("export KEEP=$this->root/keep; $script", $this->root);
    $left = static fn (): int => count(
        array_filter(
            array_map(
                fn (string $n): bool => posix_kill((int) file_get_contents(test()->root."/var/run/$n.pid"), 0),
                ['one', 'two'],
            ),
        ),
    );
    for ($i = 0; $i < 600 && $left() > 0; $i++) {
        usleep(50_000);
    }
    [$again, $says] = shell('exec 9>"$YLEMA_VAR/run/lock"; flock -n 9 || fail "it is running already"', $this->root);
    expect([$code, $left(), $again, $says])->toBe([9, 0, 0, '']);
});

it('takes ports that are free, and that nobody else has taken', function (): void {
    $busy = stream_socket_server('tcp://127.0.0.1:0') ?: throw new RuntimeException('No port is free.');
    $port = (int) substr((string) stream_socket_get_name($busy, false), strlen('127.0.0.1:'));
    // Taken by the one as long as it runs, so that the other goes on to the next ten.
    $second = 'source bin/lib.sh; take_ports '.($port - 3).'; echo $PORTS';
    [$code, $says] = shell('take_ports '.($port - 3)."; echo \$PORTS; bash -c '$second' 7>&-", $this->root);
    [$one, $other] = [...array_map(intval(...), explode("\n", $says)), 0, 0];
    expect($code)
        ->toBe(0, $says)
        ->and($one)
        ->toBeGreaterThan($port)
        ->and($other)
        ->toBeGreaterThanOrEqual($one + 10);
});

it('says the time and the counts of each part, and what failed once more at the end', function (): void {
    copy(dirname(__DIR__, 2).'/bin/parts.sh', "$this->root/bin/parts.sh");
    $script = <<<'SH'
        source "$ROOT/bin/parts.sh"
        PARTS=(core lint none) REPORT="$ROOT/report" SINCE=''
        mkdir "$REPORT"
        part_core() { echo '  Tests:    3 passed (4 assertions)'; echo '  Duration: 0.10s'; }
        check() { echo "$1 looked"; fail "$1 has a fault"; }
        part_lint() { LINT_FAILED=0; tool One check One; tool Two true; tool Three check Three; return $LINT_FAILED; }
        has() { [ "$1" != none ]; }
        ASIDE="$ROOT"; line core lint; await_lines; sum_up
        SH;
    [$code, $says] = shell($script, $this->root);
    [$before, $after] = [...explode('FAILED: lint', $says, 2), ''];
    expect($code)
        ->toBe(1, $says)
        ->and($before)
        ->toMatch('~^core +\d+ s +\d+\.\d s$~m')
        ->toContain("core\n  Tests:    3 passed (4 assertions)")
        ->and($after)
        ->toContain('One has a fault')
        ->toContain('Three has a fault')
        ->not->toContain('Two')
        // What never came to its end did not pass.
        ->toContain('FAILED: none');
});

it('keeps what it writes to itself', function (): void {
    [$code] = shell(
        'choose_user; own_var; launch "$YLEMA_VAR/log/a.log" bash -c "echo secret >\$YLEMA_VAR/storage/a"; wait',
        $this->root,
    );
    $mode = static fn (string $path): int => fileperms($path) & 0o7777;
    expect($code)
        ->toBe(0)
        ->and($mode("$this->root/var/storage/a"))
        ->toBe(0o600)
        ->and($mode("$this->root/var/run"))
        ->toBe(0o700)
        ->and($mode("$this->root/var"))
        ->toBe(0o711);
});
