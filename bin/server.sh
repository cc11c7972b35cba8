# Used by bin/install: what makes a server of a checkout. Everything here can be done again, and is, at an upgrade.

CONFIG=/etc/ylema
HOME_OF_RELEASES=/opt/ylema
NOW=$HOME_OF_RELEASES/now
UNITS=/etc/systemd/system
# What an upgrade needs, and how many older releases are kept beside the one that runs.
ROOM_MB=1500 KEPT_RELEASES=2

export YLEMA_VAR=/var/lib/ylema
RELEASE="$HOME_OF_RELEASES/releases/$(date -u +%Y%m%dT%H%M%SZ)"
CHECKOUT="$ROOT"

declare -A SAID=() TOLD=()

option() {
  [ -n "$2" ] || fail "--$1 needs a value."
  case $2 in *[$'\n\'']*) fail "--$1 takes no line ends and no apostrophes." ;; esac
  TOLD[$1]=$2
}

# --- what was said, now and before -------------------------------------------------------------------

recall() {
  SAID=([listen]=127.0.0.1:8140 [backups]=/var/backups/ylema [sites]=/srv:/var/www:/home [workers]="$(n=$(nproc); echo $((n < 2 ? 2 : n)))")
  local name value
  if [ -r $CONFIG/options ]; then
    while IFS='=' read -r name value; do SAID[$name]=$value; done <$CONFIG/options
  fi
  for name in "${!TOLD[@]}"; do SAID[$name]=${TOLD[$name]}; done
  # One way to https takes the place of the other.
  if [ -n "${TOLD[listen]:-}${TOLD[proxy]:-}" ] && [ -z "${TOLD[certificate]:-}" ]; then unset 'SAID[certificate]' 'SAID[key]'; fi
}

is_upgrade() { [ -e $CONFIG/settings ] && [ -L $NOW ]; }

# Everything that can be judged by looking, before anything is done.
judge() {
  local host
  [ -n "${SAID[address]:-}" ] || fail "say where people will reach it: bin/install --address https://ylema.example/ --owner me@example.org"
  SAID[address]=${SAID[address]%/}
  [[ ${SAID[address]} =~ ^https?://([A-Za-z0-9.-]+)(:[0-9]+)?$ ]] \
    || fail "--address takes a host of its own, such as https://ylema.example/, with no path: \"${SAID[address]}\" is none."
  host=${BASH_REMATCH[1]}
  SAID[host]=$host
  case ${SAID[address]} in
    http://127.0.0.1* | http://localhost* | https://*) ;;
    *) fail "\"${SAID[address]}\" would carry passwords in the open. Take https:// with a certificate (--certificate, --key) or a proxy that has one." ;;
  esac
  if ! is_upgrade; then
    [ -n "${SAID[owner]:-}" ] || fail "say who owns it: --owner me@example.org. They get a link to choose a password."
  fi
  [[ ${SAID[owner]:-a@b} =~ ^[^[:space:]@]+@[^[:space:]@]+$ ]] || fail "--owner takes an e-mail address, not \"${SAID[owner]}\"."
  [[ ${SAID[listen]} =~ ^([0-9.]+|\[[0-9a-fA-F:]+\]):([0-9]{2,5})$ ]] || fail "--listen takes an address and a port, such as 127.0.0.1:8140, not \"${SAID[listen]}\"."
  [[ ${SAID[proxy]:-127.0.0.1} =~ ^[0-9a-fA-F.:/]+$ ]] || fail "--proxy takes an address such as 10.0.0.5, not \"${SAID[proxy]}\"."
  [[ ${SAID[workers]} =~ ^[1-9][0-9]?$ ]] || fail "--workers takes a number from 1 to 99, not \"${SAID[workers]}\"."
  [[ ${SAID[sites]} =~ ^/[^[:space:]:%\"]+(:/[^[:space:]:%\"]+)*$ ]] \
    || fail "--sites takes folders by their whole paths with \":\" between, such as /srv:/var/www, not \"${SAID[sites]}\"."
  case ${SAID[backups]} in none | /*) ;; *) fail "--backups takes a folder by its whole path, or \"none\", not \"${SAID[backups]}\"." ;; esac
  if [ -n "${SAID[database]:-}" ]; then
    [[ ${SAID[database]} =~ ^postgres(ql)?://([A-Za-z0-9_.-]+)@([A-Za-z0-9.-]+)(:([0-9]+))?/([A-Za-z0-9_-]+)$ ]] \
      || fail "--database takes postgresql://USER@HOST:PORT/NAME, without the password, not \"${SAID[database]}\"."
  fi
  judge_certificate "$host"
}

judge_certificate() {
  local certificate=${SAID[certificate]:-} key=${SAID[key]:-} file
  [ -n "$certificate$key" ] || return 0
  [ -n "$certificate" ] && [ -n "$key" ] || fail "--certificate and --key go together."
  for file in "$certificate" "$key"; do
    case $file in /*) ;; *) fail "say \"$file\" by its whole path." ;; esac
    [ -r "$file" ] || fail "$file is not there, or $(id -un) may not read it."
  done
  command -v openssl >/dev/null || return 0
  openssl x509 -in "$certificate" -noout 2>/dev/null || fail "$certificate is no certificate in PEM."
  openssl x509 -in "$certificate" -noout -checkend 0 >/dev/null || fail "$certificate has run out. Renew it first."
  openssl x509 -in "$certificate" -noout -checkhost "$1" | grep -q 'does match' || fail "$certificate is not for $1."
  [ "$(openssl x509 -in "$certificate" -noout -pubkey 2>/dev/null)" = "$(openssl pkey -in "$key" -pubout -passin pass: 2>/dev/null)" ] \
    || fail "$key is not the key of $certificate, or has a password, which nobody could type at a start."
}

judge_server() {
  [ "$(id -u)" = 0 ] || fail "setting up a server needs root: sudo bin/install …"
  # shellcheck disable=SC1091
  (. /etc/os-release; [ "$ID" = debian ] && [ "$VERSION_ID" = 12 ]) || fail "this is made for Debian 12. Elsewhere, docs/install.md says what has to be there."
  local folder free
  for folder in /opt /var/lib; do
    free="$(df -Pm "$folder" | awk 'NR == 2 { print $4 }')"
    [ "$free" -ge $ROOM_MB ] || fail "there is room for $free MB in $folder; $ROOM_MB are needed. Nothing was changed."
  done
  if ! is_upgrade && ! systemctl --quiet is-active ylema-web.service 2>/dev/null; then
    local address=${SAID[listen]%:*} port=${SAID[listen]##*:}
    for port in $([ -n "${SAID[certificate]:-}" ] && echo "443 80" || echo "$port"); do
      ! (exec 3<>"/dev/tcp/${address//[\[\]]/}/$port") 2>/dev/null \
        || fail "port $port is in use. Stop what listens there, or choose another (--listen)."
    done
  fi
}

# --- what is put where --------------------------------------------------------------------------------

keep_folders() {
  make_user
  APP_USER=ylema
  AS_APP=(setpriv --reuid ylema --regid ylema --init-groups --pdeathsig TERM)
  mkdir -p $CONFIG $HOME_OF_RELEASES/releases "$YLEMA_VAR"
  chmod 0755 $CONFIG $HOME_OF_RELEASES $HOME_OF_RELEASES/releases
  own_var
  if [ "${SAID[backups]}" != none ]; then
    mkdir -p "${SAID[backups]}"
    chown ylema:ylema "${SAID[backups]}"
    chmod 0700 "${SAID[backups]}"
  fi
}

# Debian starts what it installs. A web server or PHP that was not there before is not wanted beside Ylema's own.
install_server_packages() {
  local unit masked=()
  mkdir -p $UNITS
  for unit in nginx:nginx-common php8.2-fpm:php8.2-fpm; do
    dpkg-query -W -f='${Status}' "${unit#*:}" 2>/dev/null | grep -q 'ok installed' && continue
    ln -sf /dev/null "$UNITS/${unit%:*}.service"
    masked+=("${unit%:*}.service")
  done
  PG_PACKAGE=postgresql-15
  [ -z "${SAID[database]:-}" ] || PG_PACKAGE=postgresql-client-15
  install_packages "${BASE_PACKAGES[@]/#postgresql-15/$PG_PACKAGE}" openssl
  for unit in "${masked[@]}"; do
    rm -f "$UNITS/$unit"
    systemctl disable --quiet "$unit" 2>/dev/null || true
  done
  judge_certificate "${SAID[host]}"
}

make_release() {
  say "Making the release of $(date -u +'%Y-%m-%d %H:%M')"
  rm -rf $HOME_OF_RELEASES/releases/*.part
  mkdir -p "$RELEASE.part"
  (cd "$CHECKOUT" && tar --create --exclude=./var --exclude=./vendor --exclude=./node_modules --exclude=./public/build --exclude=./.git .) \
    | tar --extract --directory="$RELEASE.part" --no-same-owner
  ROOT="$RELEASE.part"
  install_node
  COMPOSER_NO_DEV=1 install_libraries
  build_front
  cd /
  rm -rf "$RELEASE.part"/{node_modules,var,tests,bench}
  find "$RELEASE.part" -xdev \( -type d -exec chmod 0755 {} + -o -type f -exec chmod u+rw,go+r-w {} + \)
  chown -R root:root "$RELEASE.part"
  mv "$RELEASE.part" "$RELEASE"
  ROOT=$NOW
}

setting() {
  [ -r $CONFIG/settings ] || return 0
  sed -n "s/^$1=//p" $CONFIG/settings | tail -n 1 | sed -E "s/^'(.*)'\$/\1/"
}

make_database() {
  DB_HOST_NOW="$(setting DB_HOST)" DB_PORT_NOW="$(setting DB_PORT)" DB_NAME_NOW="$(setting DB_DATABASE)"
  DB_USER_NOW="$(setting DB_USERNAME)" DB_PASSWORD_NOW="${YLEMA_DATABASE_PASSWORD:-$(setting DB_PASSWORD)}"
  if [ -n "${SAID[database]:-}" ]; then
    [[ ${SAID[database]} =~ ^postgres(ql)?://([^@]+)@([^:/]+)(:([0-9]+))?/(.+)$ ]]
    DB_USER_NOW=${BASH_REMATCH[2]} DB_HOST_NOW=${BASH_REMATCH[3]} DB_PORT_NOW=${BASH_REMATCH[5]:-5432} DB_NAME_NOW=${BASH_REMATCH[6]}
    if [ -z "$DB_PASSWORD_NOW" ] && [ -t 0 ]; then
      read -r -s -p "Password of $DB_USER_NOW at $DB_HOST_NOW: " DB_PASSWORD_NOW
      echo
    fi
    case $DB_PASSWORD_NOW in *[$'\n\'']*) fail "a password with an apostrophe cannot be kept in $CONFIG/settings. Give the database user another one." ;; esac
    [ -n "$DB_PASSWORD_NOW" ] || fail "the database asks for a password: put it into YLEMA_DATABASE_PASSWORD."
    ask_database 'select 1' >/dev/null || fail "the database lets nobody in: $(tail -n 1 "$YLEMA_VAR/log/database.log")"
    local version
    version="$(ask_database 'show server_version_num')"
    [ "$version" -ge 130000 ] || fail "Ylema needs PostgreSQL 13 or newer; this is $(ask_database 'show server_version')."
    local tables
    tables="$(ask_database "select count(*) filter (where tablename = 'plan_steps'), count(*) from pg_tables where schemaname = 'public'")"
    case $tables in 0\|0 | 1\|*) ;; *) fail "the database $DB_NAME_NOW holds tables of something else. Give Ylema one of its own." ;; esac
    return
  fi
  [ -z "$DB_PASSWORD_NOW" ] || return 0
  say "Making a database"
  DB_HOST_NOW=127.0.0.1 DB_NAME_NOW=ylema DB_USER_NOW=ylema DB_PASSWORD_NOW="$(secret)"
  # Without systemd, as in a root that is only being prepared, the cluster is started by hand.
  local i
  pg_lsclusters -h | awk '$1 == 15 { exit ($4 ~ /online/) ? 0 : 1 }' || pg_ctlcluster 15 main start || true
  for i in $(seq 1 60); do as_postgres -c 'select 1' >/dev/null 2>&1 && break; sleep 0.5; done
  DB_PORT_NOW="$(as_postgres -c 'show port')" || fail "PostgreSQL does not answer. journalctl -u postgresql@15-main says why."
  [ -n "$(as_postgres -c "select 1 from pg_roles where rolname = 'ylema'")" ] || as_postgres -c 'create role ylema login'
  as_postgres <<<"alter role ylema password '$DB_PASSWORD_NOW'"
  [ -n "$(as_postgres -c "select 1 from pg_database where datname = 'ylema'")" ] \
    || as_postgres -c "create database ylema owner ylema template template0 encoding 'UTF8' locale 'C.UTF-8'"
}

as_postgres() { (cd / && runuser -u postgres -- psql -v ON_ERROR_STOP=1 -qAt -d postgres "$@"); }

ask_database() {
  PGPASSWORD="$DB_PASSWORD_NOW" psql -qAt -h "$DB_HOST_NOW" -p "$DB_PORT_NOW" -U "$DB_USER_NOW" -d "$DB_NAME_NOW" -c "$1" 2>"$YLEMA_VAR/log/database.log"
}

# What an administrator added stays; only what follows from the options is written anew.
write_server_settings() {
  local key name token
  key="$(setting APP_KEY)"
  [ -n "$key" ] || key="base64:$(head -c 32 /dev/urandom | base64)"
  token="$(setting YLEMA_MONITOR_TOKEN)"
  [ -n "$token" ] || token="$(secret)"
  touch $CONFIG/settings
  (umask 077; sed -E '/^(# Ylema|APP_(ENV|KEY|DEBUG|URL)|DB_[A-Z]+|SESSION_SECURE_COOKIE|TRUSTED_PROXIES|LOG_CHANNEL|YLEMA_BACKUPS|YLEMA_MONITOR_TOKEN|YLEMA_CERTIFICATE)=?/d' $CONFIG/settings >$CONFIG/settings.part
   cat >>$CONFIG/settings.part <<ENV
# Ylema: bin/install writes the lines below anew; others in this file stay. docs/install.md says what else there is.
APP_ENV=production
APP_KEY=$key
APP_DEBUG=false
APP_URL=${SAID[address]}
DB_HOST=$DB_HOST_NOW
DB_PORT=$DB_PORT_NOW
DB_DATABASE=$DB_NAME_NOW
DB_USERNAME=$DB_USER_NOW
DB_PASSWORD='$DB_PASSWORD_NOW'
SESSION_SECURE_COOKIE=$([[ ${SAID[address]} = https://* ]] && echo true || echo false)
TRUSTED_PROXIES=$([ -n "${SAID[certificate]:-}" ] || echo "${SAID[proxy]:-127.0.0.1}")
LOG_CHANNEL=stderr
YLEMA_BACKUPS=$([ "${SAID[backups]}" = none ] || echo "${SAID[backups]}")
YLEMA_MONITOR_TOKEN=$token
YLEMA_CERTIFICATE=${SAID[certificate]:-}
ENV
  )
  chown root:ylema $CONFIG/settings.part
  chmod 0640 $CONFIG/settings.part
  mv $CONFIG/settings.part $CONFIG/settings
  ln -sfn $CONFIG/settings "$YLEMA_VAR/.env"
  chown -h ylema:ylema "$YLEMA_VAR/.env"
  for name in address owner listen proxy certificate key database workers backups sites; do
    [ -z "${SAID[$name]:-}" ] || printf '%s=%s\n' "$name" "${SAID[$name]}"
  done >$CONFIG/options
}

fill_server() {
  local credentials='' v6='#' sites backups=''
  # A folder that is not there yet is no reason not to start.
  sites="-${SAID[sites]//:/ -}"
  [ "${SAID[backups]}" = none ] || backups="-${SAID[backups]}"
  [ -z "${SAID[certificate]:-}" ] || credentials="LoadCredential=certificate:${SAID[certificate]}\nLoadCredential=key:${SAID[key]}"
  [ ! -s /proc/net/if_inet6 ] || v6=''
  sed -e "s|@ROOT@|$NOW|g" -e "s|@VAR@|$YLEMA_VAR|g" -e "s|@RUN@|/run/ylema|g" -e "s|@LISTEN@|${SAID[listen]}|g" \
    -e "s|@NAME@|${SAID[host]}|g" -e "s|@ADDRESS@|${SAID[address]}|g" -e "s|@V6@|$v6|g" -e "s|@CERTIFICATE@|${SAID[certificate]:-}|g" \
    -e "s|@HTTPS_PORT@|443|g" -e "s|@HTTP_PORT@|80|g" -e "s|@CREDENTIALS@|$credentials|g" \
    -e "s|@SITES@|$sites|g" -e "s|@BACKUPS@|$backups|g" "$1" >"$2.part"
  chmod 0644 "$2.part"
  mv "$2.part" "$2"
}

write_server_files() {
  local etc="$RELEASE/etc" unit
  fill_server "$etc/server/nginx.conf" $CONFIG/nginx.conf
  fill_server "$etc/nginx-http.conf" $CONFIG/nginx-http.conf
  fill_server "$etc/nginx-app.conf" $CONFIG/nginx-app.conf
  fill_server "$etc/server/listen-$([ -n "${SAID[certificate]:-}" ] && echo https || echo plain).conf" $CONFIG/nginx-listen.conf
  fill_server "$etc/server/php-fpm.conf" $CONFIG/php-fpm.conf
  fill_server "$etc/php-fpm-app.conf" $CONFIG/php-fpm-app.conf
  for unit in "$etc"/server/ylema*.{service,target}; do fill_server "$unit" "$UNITS/$(basename "$unit")"; done
  rm -f $UNITS/ylema-certificate.*
  if [ -n "${SAID[certificate]:-}" ]; then
    for unit in path service; do fill_server "$etc/server/ylema-certificate.$unit" $UNITS/ylema-certificate.$unit; done
  fi
  cat >/usr/local/bin/ylema <<SH
#!/bin/sh
# Ylema's command line, on the installation of this server.
YLEMA_VAR=$YLEMA_VAR exec $NOW/bin/ylema "\$@"
SH
  chmod 0755 /usr/local/bin/ylema
}

# --- from one release to the next -----------------------------------------------------------------------

systemd_runs() { [ -d /run/systemd/system ]; }

before_upgrade() {
  is_upgrade || return 0
  if [ "${SAID[backups]}" != none ]; then
    say "Writing a backup"
    ylema backup "${SAID[backups]}/before-$(date -u +%Y%m%dT%H%M%SZ).tar" \
      || fail "no backup could be written, so nothing was upgraded. Make room in ${SAID[backups]}, or say --backups none."
  fi
  # The job at hand may end, which can take a minute and more; pages are answered all the while.
  ! systemd_runs || systemctl stop ylema-schedule.service 'ylema-worker@*'
}

# The code changes by one rename. What fails puts the former release back to work. The service is away only while the
# database is brought up to date and the application starts: a few seconds.
switch_release() {
  local former='' i away=$SECONDS
  ! systemd_runs || ! is_upgrade || systemctl stop ylema-php.service
  [ ! -L $NOW ] || former="$(readlink $NOW)"
  ln -sfn "$RELEASE" $NOW.part
  mv -T $NOW.part $NOW
  if ! YLEMA_VAR=$YLEMA_VAR as_app php $NOW/artisan migrate --force --quiet; then
    go_back "$former" "the database could not be brought up to date; the lines above say why."
  fi
  systemctl --quiet daemon-reload 2>/dev/null || true
  local workers
  workers="$(seq -f 'ylema-worker@%g.service' 1 "${SAID[workers]}")"
  find $UNITS/ylema.target.wants -name 'ylema-worker@*' -delete 2>/dev/null || true
  # shellcheck disable=SC2086
  systemctl --quiet enable ylema.target ylema-php.service ylema-web.service ylema-schedule.service $workers \
    $([ -z "${SAID[certificate]:-}" ] || echo ylema-certificate.path)
  if systemd_runs; then
    systemctl restart ylema-php.service ylema-web.service
    for i in $(seq 1 120); do ! is_up || break; sleep 0.25; done
    is_up || go_back "$former" "the new release does not answer. journalctl -u 'ylema-*' says why."
    [ -z "$former" ] || say "It was away for $((SECONDS - away)) seconds."
    systemctl start ylema.target
  fi
  find $HOME_OF_RELEASES/releases -mindepth 1 -maxdepth 1 ! -name '*.part' ! -path "$RELEASE" | sort -r | tail -n +$((KEPT_RELEASES + 1)) | xargs -r rm -rf
}

is_up() {
  if [ -n "${SAID[certificate]:-}" ]; then
    curl -fsSk -o /dev/null --resolve "${SAID[host]}:443:127.0.0.1" "https://${SAID[host]}/up" 2>/dev/null
  else
    curl -fsS -o /dev/null "http://${SAID[listen]/#0.0.0.0/127.0.0.1}/up" 2>/dev/null
  fi
}

go_back() {
  if [ -n "$1" ]; then
    ln -sfn "$1" $NOW.part && mv -T $NOW.part $NOW
    rm -rf "$RELEASE"
    ! systemd_runs || systemctl restart ylema.target || true
    fail "$2
       The former release is at work again. The backup of before lies in ${SAID[backups]}."
  fi
  ! systemd_runs || systemctl stop ylema.target 'ylema-*'
  rm -f $NOW
  fail "$2
       Nothing runs yet; mend it and run bin/install again."
}

first_owner() {
  LINK=''
  [ -n "${SAID[owner]:-}" ] || return 0
  [ -n "$(ask_database "select 1 from users where email = lower('${SAID[owner]}') and joined_at is not null")" ] && return
  LINK="$(ylema person "${SAID[owner]}" --role=owner --link)" || fail "the owner could not be let in: $LINK"
}

end() {
  rm -rf "$RELEASE.part"
  [ "$1" = 0 ] || say "Run bin/install again when that is mended; it goes on where it has to." >&2
}

farewell() {
  say ""
  if systemd_runs; then say "Ylema runs: ${SAID[address]}/"; else say "Ylema is installed. systemd does not run here; once it does: systemctl start ylema.target"; fi
  [ -z "$LINK" ] || say "$LINK"
  [ -n "${SAID[certificate]:-}" ] || say "The proxy of ${SAID[address]}/ passes requests on to http://${SAID[listen]}; docs/install.md has lines for it."
  say "Its commands: ylema list      Its log: journalctl -u 'ylema-*'      Its settings: $CONFIG/settings"
  say "It reads and writes sites as the user ylema, who needs the right to their folders (docs/install.md)."
}

how_to_remove() {
  cat <<TEXT
Ylema is taken off a server by these commands, as root. Look into *Resting* first: what rests lies in
$YLEMA_VAR and nowhere else, and comes back by "Restore" there.

  systemctl stop ylema.target 'ylema-*'
  systemctl disable ylema.target
  rm -r $UNITS/ylema* /usr/local/bin/ylema $HOME_OF_RELEASES
  systemctl daemon-reload

That leaves what Ylema knows. A last backup, then that goes, too:

  runuser -u postgres -- dropdb ylema && runuser -u postgres -- dropuser ylema    (where it was made here)
  rm -r $YLEMA_VAR $CONFIG
  userdel ylema

Backups in ${SAID[backups]:-/var/backups/ylema} and Debian's packages stay.
TEXT
}
