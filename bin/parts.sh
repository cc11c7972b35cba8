# The parts of bin/test: what each of them does, how they run beside each other, and what is said of them at the end.
#
# Parts stand in lines: those of one line run one after the other, and the lines run beside each other. What a part
# prints goes to a log of its own, and is shown when the part has ended, so that no two are mixed.

LINES_BEGUN=()

# SPENT: processor time of this shell and of all that it waited for, in hundredths of a second.
spent() {
  # Asked in a subshell, it would be that of the subshell.
  local said="$REPORT/times-$BASHPID"
  times >"$said"
  SPENT="$(tr 'ms' '  ' <"$said" | awk '{ sum += $1 * 60 + $2 + $3 * 60 + $4 } END { printf "%d", sum * 100 }')"
}

# The same of processes that others started (proc(5): utime, stime, cutime, cstime).
spent_by() {
  local pid sum=0
  for pid in "$@"; do
    sum=$((sum + $(sed 's/^.*) //' "/proc/$pid/stat" 2>/dev/null | awk '{ n = $12 + $13 + $14 + $15 } END { print n + 0 }')))
  done
  echo $((sum * 100 / $(getconf CLK_TCK)))
}

seconds() { printf '%d.%d' $(($1 / 100)) $(($1 % 100 / 10)); }

# A line of its own in the summary, for what is done before the parts.
note_spent() { spent; printf '%s\t%d\n' "$1" $((SPENT - $2)) >>"$REPORT/before"; }

# part NAME: runs the function of that name, and writes down how it ended, how long it took, and what it cost.
part() {
  local name=$1 began=$SECONDS before code
  spent
  before=$SPENT
  set +e
  if [ ${#PARTS[@]} = 1 ]; then
    (set -e; PIDS=(); trap stop_children EXIT; trap 'exit 143' TERM; "part_$name") 2>&1 | tee "$REPORT/$name.log"
    code=${PIPESTATUS[0]}
  else
    (set -e; PIDS=(); trap stop_children EXIT; trap 'exit 143' TERM; "part_$name") >"$REPORT/$name.log" 2>&1
    code=$?
  fi
  set -e
  spent
  printf '%s %s %s\n' "$code" $((SECONDS - began)) $((SPENT - before)) >"$REPORT/$name.end"
  # One at a time, or two that end at one moment would be mixed.
  (flock 8; show "$name") 8>>"$REPORT/shown"
}

show() {
  local code wall used
  read -r code wall used <"$REPORT/$1.end"
  printf '\n== %s\n' "$1"
  [ ${#PARTS[@]} = 1 ] || cat "$REPORT/$1.log"
  printf '\n%s: %s, %d s, %s s of processor time\n' "$1" "$([ "$code" = 0 ] && echo passed || echo FAILED)" "$wall" "$(seconds "$used")"
}

# line NAME…: those of them that were asked for, one after the other, beside what else runs. What tests write outside of
# the checkout has a folder of its own, and goes with it.
line() {
  local name wanted=()
  for name in "$@"; do ! has "$name" || wanted+=("$name"); done
  [ ${#wanted[@]} -gt 0 ] || return 0
  # A group of its own, so that all of it can be ended at once.
  set -m
  (
    set +m
    trap - EXIT INT TERM
    export TMPDIR="$ASIDE" leader=$BASHPID
    # Killed, bin/test can end nobody any more; what it began would go on and keep the next one from starting.
    (trap 'kill $!; exit 0' TERM; tail --pid=$$ -f /dev/null & wait $!; kill -TERM -- "-$leader") </dev/null >/dev/null 2>&1 &
    watch=$!
    for name in "${wanted[@]}"; do part "$name"; done
    kill "$watch"
  ) &
  LINES_BEGUN+=($!)
  set +m
}

await_lines() { local pid; for pid in "${LINES_BEGUN[@]:-}"; do [ -z "$pid" ] || wait "$pid" || true; done; }

end_lines() {
  local pid
  for pid in "${LINES_BEGUN[@]:-}"; do [ -z "$pid" ] || kill -TERM -- "-$pid" 2>/dev/null || true; done
  await_lines
}

# What became of all parts: what they cost, their counts, and last whatever failed, once more. Says 1 where anything did.
sum_up() {
  local name code wall used total=0 failed=()
  printf '\n%-12s %8s %12s\n' '' wall processor
  while IFS=$'\t' read -r name used; do
    total=$((total + used))
    printf '%-12s %8s %10s s\n' "$name" '' "$(seconds "$used")"
  done < <(cat "$REPORT/before" 2>/dev/null)
  for name in "${PARTS[@]}"; do
    if [ ! -s "$REPORT/$name.end" ]; then failed+=("$name"); continue; fi
    read -r code wall used <"$REPORT/$name.end"
    [ "$code" = 0 ] || failed+=("$name")
    total=$((total + used))
    printf '%-12s %6d s %10s s\n' "$name" "$wall" "$(seconds "$used")"
  done
  used=$(spent_by $(database_processes))
  total=$((total + used))
  printf '%-12s %8s %10s s\n%-12s %6d s %10s s\n' databases '' "$(seconds "$used")" all "$SECONDS" "$(seconds "$total")"
  for name in "${PARTS[@]}"; do counts "$name"; done
  for name in "${failed[@]:-}"; do
    [ -n "$name" ] || continue
    printf '\nFAILED: %s\n' "$name"
    failures "$name"
  done
  [ ${#failed[@]} = 0 ]
}

# The closing lines of the part's own runner.
counts() {
  local said
  said="$(sed 's/\x1b\[[0-9;]*m//g' "$REPORT/$1.log" 2>/dev/null | grep -E '^ *(Tests|Duration):? +' | tail -n 2 || true)"
  [ -z "$said" ] || printf '\n%s\n%s\n' "$1" "$said"
}

failures() {
  local said=''
  [ ! -s "$REPORT/$1.failed" ] || said="$(cat "$REPORT/$1.failed")"
  [ -n "$said" ] || [ ! -s "$REPORT/$1.xml" ] || said="$(php "$ROOT/tests/report.php" failures "$REPORT/$1.xml")"
  # What is no test wrote nothing down but what it printed last.
  [ -n "$said" ] || said="$(tail -n 40 "$REPORT/$1.log" 2>/dev/null || echo 'It did not come to its end.')"
  printf '%s\n' "$said"
}

database_processes() {
  local pid
  for pid in "${MARIA_PID:-}" "$(head -n 1 "${PG_DATA:-/nonexistent}/postmaster.pid" 2>/dev/null || true)"; do
    [ -z "$pid" ] || { echo "$pid"; pgrep -P "$pid" || true; }
  done
}

# A folder in memory for the databases, where the machine has the room: hundreds of copies of them are made and dropped,
# and a disk would have to make and forget each of their files.
in_memory() {
  local noted="$YLEMA_VAR/run/in-memory"
  # A run that was killed left its cluster there, at work.
  PG_FOLDER="$(cat "$noted" 2>/dev/null || true)"
  leave_memory
  [ "$(df -Pm /dev/shm 2>/dev/null | awk 'NR == 2 { print $4 }')" -ge 3000 ] 2>/dev/null || return 0
  PG_FOLDER="$(mktemp -d /dev/shm/ylema-test-XXXXXX)"
  printf '%s' "$PG_FOLDER" >"$noted"
}

leave_memory() {
  case $PG_FOLDER in /dev/shm/ylema-test-*) ;; *) PG_FOLDER=''; return 0 ;; esac
  PG_DATA=$PG_FOLDER stop_pg
  rm -rf "$PG_FOLDER" "$YLEMA_VAR/run/in-memory"
  PG_FOLDER=''
}

# What a former run left, where the databases lie on a disk.
forget_databases() {
  local name
  for name in $(PGPASSWORD=$DB_PASSWORD psql -h 127.0.0.1 -p "$DB_PORT" -U ylema -d postgres -qAtc "select datname from pg_database where datname ~ '^(ylema|korrinbay)'"); do
    PGPASSWORD=$DB_PASSWORD psql -h 127.0.0.1 -p "$DB_PORT" -U ylema -d postgres -qc "drop database if exists $name with (force)"
  done
}

# What changed since a commit, also what no commit holds yet, and the tests that it asks for (tests/changed.php).
choose_changed() {
  local files
  cd "$ROOT"
  mapfile -t files < <({ git diff --name-only "$SINCE" --; git ls-files --others --exclude-standard; } | sort -u)
  [ ${#files[@]} -gt 0 ] || mapfile -t files < <(git diff --name-only HEAD~1 --)
  php tests/changed.php "${files[@]}" >"$REPORT/changed"
  ! grep -qE '^(php|ts) ' "$REPORT/changed" || PARTS+=(lint)
  ! grep -q '^ts ' "$REPORT/changed" || PARTS+=(front)
  ! grep -q '^core ' "$REPORT/changed" || PARTS+=(core)
  ! grep -q '^app ' "$REPORT/changed" || PARTS+=(app)
  sed -n 's/^not \(.*\)/Not run, since it needs the servers of a whole part: \1/p' "$REPORT/changed"
  [ ${#PARTS[@]} -gt 0 ] || { say "Nothing changed that a check or a test looks at."; exit 0; }
}

# Of the changed files, those of a kind.
changed() { sed -n "s/^$1 //p" "$REPORT/changed"; }

# Where only what changed is asked for: the same settings, with a list of files for a suite.
only_changed() {
  local part=$1 list
  list="$(changed "$part" | sed "s|.*|<file>$ROOT/&</file>|" | tr -d '\n')"
  sed -e "s|vendor/autoload.php|$ROOT/&|; s|var/phpunit|$ROOT/&|; s|<testsuite name=\"${part^}\">.*</testsuite>|<testsuite name=\"${part^}\">$list</testsuite>|" \
    -e "s|<directory>tests|<directory>$ROOT/tests|" "$ROOT/phpunit.xml" >"$REPORT/$part-changed.xml"
}

# --- what each part does -----------------------------------------------------------------------------

# Compiled just in time, what computes much takes less. Function by function: by traces, PHP 8.2 compiles some loops over
# lists wrongly, in one run and not in the next.
QUICK=(-d memory_limit=2G -d opcache.enable_cli=1 -d opcache.jit=function -d opcache.jit_buffer_size=64M)

# pest SUITE ARGUMENT…: the suite, then its slowest tests.
pest() {
  local suite=$1 code=0
  shift
  if [ -n "$SINCE" ]; then
    only_changed "${suite,,}"
    PEST+=(--configuration="$REPORT/${suite,,}-changed.xml")
  fi
  "$@" vendor/bin/pest --cache-directory="$YLEMA_VAR/phpunit/$suite" --testsuite="$suite" --log-junit="$REPORT/${suite,,}.xml" \
    "${BESIDE[@]}" "${PEST[@]}" || code=$?
  php "$ROOT/tests/report.php" slowest "$REPORT/${suite,,}.xml"
  return $code
}

# tool NAME COMMAND…: one of several that all have their say; what a failing one said is kept for the end.
tool() {
  local name=$1 said="$REPORT/tool" code=0
  shift
  say "$name"
  ("$@") >"$said" 2>&1 || code=$?
  cat "$said"
  [ "$code" != 0 ] || return 0
  { printf '%s\n' "$name"; tail -n 40 "$said"; } >>"$REPORT/lint.failed"
  LINT_FAILED=1
}

part_lint() {
  local php=() ts=() has_core='' has_app=''
  LINT_FAILED=0
  if [ -z "$SINCE" ]; then
    has_core=1 has_app=1 ts=(resources/ts tests/Front)
  else
    mapfile -t php < <(changed php)
    mapfile -t ts < <(changed ts)
    ! changed php | grep -q '^core/' || has_core=1
    ! changed php | grep -qE '^(app|standin|config|routes|database)/' || has_app=1
  fi
  [ -z "$has_core" ] || tool PHPStan php "${QUICK[@]}" vendor/bin/phpstan analyse --no-progress
  [ -z "$has_app" ] || tool 'PHPStan, of the application' php "${QUICK[@]}" vendor/bin/phpstan analyse -c phpstan-app.neon --no-progress
  [ -n "$SINCE" ] && [ ${#php[@]} = 0 ] || tool Pint php "${QUICK[@]}" vendor/bin/pint --test "${php[@]}"
  if [ ${#ts[@]} -gt 0 ]; then
    tool ESLint npm run --silent lint -- "${ts[@]}"
    tool Prettier npm run --silent format -- "${ts[@]}"
    tool TypeScript npm run --silent types
  fi
  [ -n "$SINCE" ] || tool Audit audit_libraries
  return $LINT_FAILED
}

part_front() {
  npx --no-install vitest run --config vitest.config.ts --reporter=default --reporter=junit --outputFile.junit="$REPORT/front.xml"
  php "$ROOT/tests/report.php" slowest "$REPORT/front.xml"
}

part_core() {
  BESIDE=(--parallel "--processes=$(nproc)" "--passthru-php=$(printf "'%s' " "${QUICK[@]}")")
  pest Core php "${QUICK[@]}"
}

# Each process has databases and a folder of its own (tests/App/Surroundings.php).
part_app() {
  BESIDE=(--parallel "--processes=$(nproc)")
  pest App as_app php -d memory_limit=1G
}

part_browser() {
  build_front
  # The browser tests begin with the demo as on the first day, and with a page cache that does not let go by itself.
  rm -rf "$YLEMA_VAR/site" "$YLEMA_VAR/cache"
  copy_demo
  as_app php artisan migrate --force --quiet
  as_app php artisan ylema:demo
  CACHE_SECONDS=3600 start_web
  start_workers 2
  start_schedule
  as_app php artisan ylema:demo --read
  launch "$YLEMA_VAR/log/chromedriver.log" chromedriver --port=$((APP_PORT + 9)) --allowed-origins='*'
  BESIDE=()
  pest Browser as_app php -d memory_limit=1G
}

part_install() {
  [ "$(id -u)" = 0 ] || fail "a container is started by root: sudo bin/test install"
  BESIDE=()
  pest Install php
}

# A bench writes into the checkout, so it runs as whoever started it; what it leaves is handed over at the next start.
part_none() { php -d memory_limit=1G "${PEST[@]}"; }
