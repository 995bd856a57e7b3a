# What a person can ask for.

help() {
  cat <<'HELP'
./cellar demo      the portal with the made-up Skerrow Line in it
./cellar start     the portal, empty; the first start prints the administrator's password once. What dies is started again
./cellar stop      stops what was started from here (or --data DIR: that one)
./cellar status    what runs, and where
./cellar test      every test; further words go to Maven (./cellar test -pl core -Dtest=SecondsTest)
./cellar bench     speed, as ratios measured in one run (./cellar bench read | formats | grouping | flaky | verdicts | triage | learn | ingest | collect | live | load | pages | draw | growth)
./cellar database  the address of the running portal's own database, for pg_dump and psql; the password stays in its file
./cellar build     only builds
./cellar tidy      formats all code the way the tests want it
./cellar help      this

Options of demo and start:
  --detach         return when the service is ready; non-zero with the reason when it is not
  --json           the ready line as one JSON object: url, project, user, password, token
  --port N         port of the service (8420); 0 for any free one
  --db-port N      port of the database (any free one)
  --data DIR       where everything is kept (.cellar/data and .cellar/demo here)

VINE_DB_URL, VINE_DB_USER and VINE_DB_PASSWORD_FILE name a PostgreSQL of your own in place of ours.
All settings: docs/CONFIGURATION.md
HELP
}

main() {
  local command="${1:-help}"
  [ $# -gt 0 ] && shift
  case "$command" in
    demo | start) run_portal "$command" "$@" ;;
    stop) stop_portals "$@" ;;
    status) status "$@" ;;
    test) run_tests "$@" ;;
    bench) run_bench "$@" ;;
    database) database_uri "$@" ;;
    build) build && say "built" ;;
    tidy) tidy ;;
    supervise) supervise "$@" ;;
    help | --help | -h) help ;;
    *)
      warn "there is no command “$command”"
      help >&2
      exit 2
      ;;
  esac
}

wrong_option() { warn "“$1” is not understood here; ./cellar help lists what is"; exit 2; }

number() { [[ "$2" =~ ^[0-9]{1,5}$ ]] || { warn "$1 takes a port number, not “$2”"; exit 2; }; }

parse_options() {
  DETACH=0 JSON=0 WANT_PORT="${VINE_PORT:-8420}" WANT_DB_PORT="" DATA=""
  while [ $# -gt 0 ]; do
    case "$1" in
      --detach) DETACH=1 ;;
      --json) JSON=1 ;;
      --port | --db-port | --data)
        [ $# -ge 2 ] || { warn "$1 needs a value"; exit 2; }
        case "$1" in
          --port) number "$1" "$2"; WANT_PORT="$2" ;;
          --db-port) number "$1" "$2"; WANT_DB_PORT="$2" ;;
          --data) DATA="$2" ;;
        esac
        shift
        ;;
      *) wrong_option "$1" ;;
    esac
    shift
  done
}

choose_data() { # name
  local given="$DATA"
  DATA="$(realpath -m "${DATA:-$ROOT/.cellar/$1}")"
  if [ -z "${VINE_DB_URL:-}" ] && ! pg_can_reach "$DATA"; then
    if [ -n "$given" ]; then
      die "the database's user “$PG_USER” cannot reach $DATA; choose a directory that it may enter (--data)"
    fi
    DATA="/var/lib/vine-cellar/$(echo "$ROOT" | cksum | cut -d' ' -f1)/$1"
    say "the database's user cannot reach this checkout; keeping data in $DATA"
  fi
  # The database's user must be able to walk down to it.
  (umask 022 && mkdir -p "$DATA")
  chmod 711 "$DATA"
}

run_portal() {
  local kind="$1"
  shift
  parse_options "$@"
  FIRST_PROJECT="${VINE_FIRST_PROJECT:-main}" FIRST_PROJECT_NAME="${VINE_FIRST_PROJECT_NAME:-Main}"
  local name=data
  if [ "$kind" = demo ]; then
    name=demo FIRST_PROJECT=skerrow-line FIRST_PROJECT_NAME="Skerrow Line"
  fi
  [ -n "${VINE_DB_URL:-}" ] || need_postgres
  build
  choose_data "$name"
  exec 9>"$DATA/lock"
  flock -w 120 9 || die "another start is under way in $DATA"
  local port
  if supervisor_running; then
    port="$(service_port)"
    running_already "$port"
    ready_line "$port"
    return
  fi
  # From here on a Ctrl-C or a failure leaves nothing running.
  trap 'trap - EXIT; stop_here; exit 130' INT TERM
  trap 'stop_here' EXIT
  # A service without its supervisor is one that somebody left behind.
  if service_running; then service_stop; fi
  [ -n "${VINE_DB_URL:-}" ] && say "using the database of VINE_DB_URL"
  [ -n "${VINE_DB_URL:-}" ] || pg_start
  port="$WANT_PORT"
  [ "$port" = 0 ] && port="$(free_port)"
  port_answers "$port" && die "port $port is taken by another program; choose another with --port"
  rm -f "$DATA/first-access.json" "$DATA/service.pid"
  if [ "$kind" = demo ]; then tracker_start; fi
  supervisor_start "$port"
  service_wait_ready "$port" || die "the service did not start; its log is $DATA/service.log"
  if [ "$kind" = demo ]; then load_demo "$port"; fi
  ready_line "$port"
  flock -u 9
  if [ "$DETACH" = 1 ]; then
    trap - EXIT INT TERM
    return
  fi
  say "Ctrl-C stops it."
  wait "$SUPERVISOR_PID" || true
  die "the supervisor ended by itself; its log is $DATA/supervisor.log"
}

# Asks rather than believes: what died in this moment is waited for, and said.
running_already() { # port
  if is_ready "$1" && database_runs; then
    say "already running"
    return
  fi
  say "it runs, but does not answer as ready; waiting for what is being started again …"
  touch "$DATA/was-ready"
  # Not at the first good sign: what a killed database left behind may still answer for a moment.
  local i calm=0
  for i in $(seq 180); do
    if is_ready "$1" && database_runs; then calm=$((calm + 1)); else calm=0; fi
    [ "$calm" -ge 6 ] && break
    sleep 0.5
  done
  [ "$calm" -ge 6 ] || die "it is not ready; see $DATA/supervisor.log and $DATA/service.log"
  say "it was started again:"
  tail -n 4 "$DATA/supervisor.log" | sed 's/^/  /' | { [ "$JSON" = 1 ] && cat >&2 || cat; }
}

database_runs() { [ -n "${VINE_DB_URL:-}" ] || pg_running; }

stop_here() {
  service_stop
  [ -n "${VINE_DB_URL:-}" ] || pg_stop
}

load_demo() { # port
  if [ -f "$DATA/first-access.json" ]; then
    mv "$DATA/first-access.json" "$DATA/access.json"
  fi
  [ -f "$DATA/demo.loaded" ] && return
  say "loading the demo data …"
  VINE_TOKEN="$(json_value "$DATA/access.json" token)" VINE_USER="$(json_value "$DATA/access.json" user)" \
    VINE_PASSWORD="$(json_value "$DATA/access.json" password)" \
    VINE_DEMO_TRACKER="http://127.0.0.1:$(tracker_port)" java -XX:+UseSerialGC -XX:TieredStopAtLevel=1 \
    -cp "$ROOT/demo/target/demo-0.1.0.jar:$ROOT/client/target/vine.jar" \
    org.vinecellar.demo.Demo "http://127.0.0.1:$1" >"$DATA/demo.log" 2>&1 \
    || { tail -n 5 "$DATA/demo.log" >&2; die "the demo data could not be loaded; see $DATA/demo.log"; }
  touch "$DATA/demo.loaded"
}

# The demo's sign-in is kept and shown each time; that of a real portal is shown once.
ready_line() { # port
  local file="$DATA/access.json" url="http://127.0.0.1:$1"
  [ -f "$file" ] || file="$DATA/first-access.json"
  local project user password token
  project="$(json_value "$file" project)" user="$(json_value "$file" user)"
  password="$(json_value "$file" password)" token="$(json_value "$file" token)"
  rm -f "$DATA/first-access.json"
  local tracker=""
  if [ -n "$(tracker_port)" ]; then tracker="http://127.0.0.1:$(tracker_port)"; fi
  if [ "$JSON" = 1 ]; then
    printf '{"url":"%s","project":%s,"user":%s,"password":%s,"token":%s,"tracker":%s}\n' "$url" \
      "$(json_or_null "$project")" "$(json_or_null "$user")" "$(json_or_null "$password")" "$(json_or_null "$token")" \
      "$(json_or_null "$tracker")"
    return
  fi
  echo
  echo "  Vine Cellar is ready:  $url"
  [ -z "$tracker" ] || echo "  a tracker to try       $tracker"
  if [ -n "$password" ]; then
    echo "  sign in as             $user   password   $password"
    echo "  for a pipeline         export VINE_URL=$url VINE_TOKEN=$token"
    [ "$file" = "$DATA/access.json" ] || echo "  Keep both: they are not shown again."
  fi
  echo
}

data_dirs() {
  if [ -n "$DATA" ]; then realpath -m "$DATA"; return; fi
  local base
  for base in "$ROOT/.cellar" "/var/lib/vine-cellar/$(echo "$ROOT" | cksum | cut -d' ' -f1)"; do
    ls -d "$base/data" "$base/demo" 2>/dev/null || true
  done
}

stop_portals() {
  parse_options "$@"
  find_postgres || true
  local dir any=0
  for dir in $(data_dirs); do
    DATA="$dir"
    if supervisor_running || service_running || pg_running; then
      any=1
      service_stop
      pg_stop
      say "stopped $dir"
    fi
  done
  [ "$any" = 1 ] || say "nothing was running"
}

status() {
  parse_options "$@"
  find_postgres || true
  local dir code=3
  for dir in $(data_dirs); do
    DATA="$dir"
    if service_running && is_ready "$(service_port)"; then
      code=0
      say "$dir: running at http://127.0.0.1:$(service_port), process $(service_pid)"
    elif supervisor_running; then
      code=4
      say "$dir: not ready; its supervisor is at it: $(tail -n 1 "$dir/supervisor.log")"
    elif service_running; then
      code=4
      say "$dir: a service runs that does not answer, without its supervisor; ./cellar stop stops it"
    elif pg_running; then
      say "$dir: only the database is running; ./cellar stop stops it"
    else
      say "$dir: not running"
    fi
  done
  [ -n "${dir:-}" ] || say "nothing was started from here yet"
  return $code
}

database_uri() {
  parse_options "$@"
  find_postgres || die "PostgreSQL is not installed here"
  local dir
  for dir in $(data_dirs); do
    DATA="$dir"
    if pg_running; then
      echo "postgresql://vine@127.0.0.1:$(cat "$DATA/db.port")/vine?passfile=$DATA/db.pass"
      return
    fi
  done
  die "no database of ours is running; start the portal first"
}

run_tests() {
  need_tools
  need_postgres
  need_chromium
  build
  JSON=0 WANT_DB_PORT="" DATA="$(mktemp -d /tmp/vine-test.XXXXXX)"
  chmod 711 "$DATA"
  trap 'pg_stop; rm -rf "$DATA"' EXIT
  trap 'exit 130' INT TERM
  pg_start
  cd "$ROOT"
  umask 022
  # A module needs those that it is built on, whose tests have other names.
  case " $* " in *" -pl "*) set -- "$@" -am -Dsurefire.failIfNoSpecifiedTests=false ;; esac
  if [ $# = 0 ]; then (cd console && npm run --silent lint && npm run --silent test); fi
  VINE_TEST_DB_URL="jdbc:postgresql://127.0.0.1:$DB_PORT/postgres" VINE_TEST_DB_USER=postgres \
    VINE_TEST_DB_PASSWORD="$(cat "$DATA/db.owner.password")" \
    PLAYWRIGHT_SKIP_BROWSER_DOWNLOAD=1 mvn -B -ntp verify "$@"
}

tidy() {
  need_tools
  cd "$ROOT"
  mvn -q -B -ntp spotless:apply
  cd console
  [ -d node_modules ] || npm ci --silent
  npm run --silent format
}

run_bench() {
  need_tools
  need_postgres
  need_chromium
  build
  cd "$ROOT"
  (umask 022 && mvn -q -B -ntp package -Dmaven.test.skip=true -Dspotless.check.skip=true -pl rules,core,client,bench) >&2
  JSON=1
  local bench others=()
  bench="$(mktemp -d /tmp/vine-bench.XXXXXX)"
  chmod 711 "$bench"
  trap 'DATA="'"$bench"'/other"; stop_here; DATA="'"$bench"'/one"; stop_here; rm -rf "'"$bench"'"' EXIT
  trap 'exit 130' INT TERM
  # What is compared between two portals is asked of both in turn.
  if [ $# = 0 ] || [[ " $* " == *" growth "* ]]; then
    bench_portal "$bench/other"
    others=(-Dbench.other.url="http://127.0.0.1:$BENCH_PORT" -Dbench.other.db="$DB_URL" -Dbench.other.service="$SERVICE_PID")
    bench_secrets OTHER_
  fi
  bench_portal "$bench/one"
  bench_secrets ""
  java -Xmx1g ${VINE_BENCH_OPTS:-} -cp "bench/target/bench-0.1.0.jar:client/target/vine.jar:$(cat bench/target/classpath):$(ls "$ROOT"/service/target/quarkus-app/lib/main/org.postgresql.postgresql-*.jar)" \
    -Dbench.url="http://127.0.0.1:$BENCH_PORT" -Dbench.db="$DB_URL" -Dbench.root="$ROOT" -Dbench.service="$SERVICE_PID" "${others[@]}" \
    -Dbench.log="$DATA/service.log" org.vinecellar.bench.Bench "$@"
}

# An empty portal for the bench; leaves its port in BENCH_PORT.
bench_portal() { # data directory
  DATA="$1" WANT_DB_PORT=""
  FIRST_PROJECT=bench FIRST_PROJECT_NAME=Bench
  mkdir "$DATA"
  chmod 711 "$DATA"
  pg_start
  BENCH_PORT="$(free_port)"
  service_launch "$BENCH_PORT"
  service_wait_ready "$BENCH_PORT" || die "the service did not start"
}

# The ways into that portal, in the environment of what measures.
bench_secrets() { # prefix of their names
  export "VINE_BENCH_$1TOKEN=$(json_value "$DATA/first-access.json" token)"
  export "VINE_BENCH_$1PASSWORD=$(json_value "$DATA/first-access.json" password)"
  export "VINE_BENCH_$1DB_PASSWORD=$(cat "$DATA/db.password")"
}
