# A PostgreSQL of our own below the data directory, on loopback. It refuses to run as root, so root
# hands it to the user that Debian's package made.

PG_USER=postgres

find_postgres() {
  PG_BIN="$(ls -d /usr/lib/postgresql/*/bin 2>/dev/null | sort -V | tail -n1)"
  [ -n "$PG_BIN" ] && [ -x "$PG_BIN/initdb" ] && [ -x "$PG_BIN/pg_ctl" ]
}

as_pg() { if am_root; then runuser -u "$PG_USER" -- "$@"; else "$@"; fi; }

# The server's user must be able to walk down to the directory.
pg_can_reach() {
  am_root || return 0
  local dir="$1"
  while [ ! -d "$dir" ]; do dir="$(dirname "$dir")"; done
  runuser -u "$PG_USER" -- test -x "$dir"
}

pg_running() { [ -f "$DATA/postgres/postmaster.pid" ] && as_pg "$PG_BIN/pg_ctl" -D "$DATA/postgres" status >/dev/null 2>&1; }

random_word() { head -c 24 /dev/urandom | base64 | tr -d '/+=\n'; }

# Two roles: “postgres” owns the server and is used by this script alone; “vine” owns one database and can do nothing else.
pg_init() {
  [ -f "$DATA/postgres/PG_VERSION" ] && [ -f "$DATA/db.pass" ] && return
  if [ -f "$DATA/postgres/PG_VERSION" ]; then
    die "$DATA holds a database of an earlier build, in which the service might do everything; move it away, or choose another directory (--data)"
  fi
  say "making a database in $DATA/postgres …"
  rm -rf "$DATA/postgres.new"
  mkdir -p "$DATA/postgres.new"
  random_word >"$DATA/db.owner.password"
  random_word >"$DATA/db.password"
  # The server's user cannot read our file; it gets a copy for the moment.
  local copy="$DATA/postgres.password"
  cp -p "$DATA/db.owner.password" "$copy"
  if am_root; then chown "$PG_USER" "$DATA/postgres.new" "$copy"; fi
  if ! as_pg "$PG_BIN/initdb" -D "$DATA/postgres.new" -U postgres -E UTF8 --locale=C.UTF-8 \
    --auth=scram-sha-256 --pwfile="$copy" >"$DATA/initdb.log" 2>&1; then
    rm -f "$copy"
    tail -n 10 "$DATA/initdb.log" >&2
    die "PostgreSQL could not make its data directory in $DATA/postgres"
  fi
  rm -f "$copy"
  # Complete or not at all: a half-made directory is never taken for a database.
  mv "$DATA/postgres.new" "$DATA/postgres"
}

# Passwords stand in files that only their user can read (libpq's passfile), never on a command line.
pg_roles() {
  [ -f "$DATA/db.pass" ] && return
  printf '*:*:*:postgres:%s\n' "$(cat "$DATA/db.owner.password")" >"$DATA/db.owner.pass"
  local word sql
  word="$(cat "$DATA/db.password")"
  sql="$(printf "create role vine login nosuperuser nocreatedb nocreaterole password '%s';\ncreate database vine owner vine;\nrevoke all on database postgres, template1 from public;\n" "$word")"
  if ! printf '%s\n' "$sql" | PGPASSFILE="$DATA/db.owner.pass" "$PG_BIN/psql" -X -q -v ON_ERROR_STOP=1 -h 127.0.0.1 \
    -p "$DB_PORT" -U postgres -d postgres >"$DATA/roles.log" 2>&1; then
    tail -n 5 "$DATA/roles.log" >&2
    die "the database's roles could not be made; see $DATA/roles.log"
  fi
  printf '*:*:*:vine:%s\n' "$word" >"$DATA/db.pass"
}

pg_start() {
  pg_init
  if pg_running; then DB_PORT="$(sed -n 4p "$DATA/postgres/postmaster.pid")"; pg_roles; pg_env; return; fi
  local pid_file="$DATA/postgres/postmaster.pid"
  if [ -f "$pid_file" ] && ! lives "$(head -n1 "$pid_file")" postgres; then
    rm -f "$pid_file"
  fi
  DB_PORT="${WANT_DB_PORT:-$(cat "$DATA/db.port" 2>/dev/null || true)}"
  if [ -z "$DB_PORT" ] || { [ -z "${WANT_DB_PORT:-}" ] && port_answers "$DB_PORT"; }; then
    DB_PORT="$(free_port)"
  fi
  port_answers "$DB_PORT" && die "port $DB_PORT for the database is taken; choose another with --db-port"
  echo "$DB_PORT" >"$DATA/db.port"
  local log="$DATA/postgres.log"
  touch "$log"
  if am_root; then chown "$PG_USER" "$log"; fi
  # Away from the terminal's signals: on Ctrl-C the service stops first, and it needs the database.
  if ! as_pg setsid "$PG_BIN/pg_ctl" -D "$DATA/postgres" -l "$log" -w -t 60 start -o "-p $DB_PORT \
    -c listen_addresses=127.0.0.1 -c unix_socket_directories='' -c shared_buffers=256MB \
    -c max_wal_size=4GB -c checkpoint_timeout=15min -c wal_compression=on -c work_mem=16MB \
    -c jit=off -c max_connections=100" </dev/null >"$DATA/pg_ctl.log" 2>&1; then
    tail -n 10 "$log" >&2
    die "PostgreSQL did not start; its log is $log"
  fi
  pg_roles
  pg_env
}

pg_env() { DB_URL="jdbc:postgresql://127.0.0.1:$DB_PORT/vine"; }

pg_stop() {
  find_postgres || return 0
  if pg_running; then as_pg "$PG_BIN/pg_ctl" -D "$DATA/postgres" -m fast -w -t 60 stop >/dev/null 2>&1 || true; fi
}
