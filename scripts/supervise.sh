# Keeps the database and the service running: what died is started again, at once the first time, then with a longer and
# longer pause. Says so in supervisor.log, and in the terminal of who waits.

supervisor_pid() { cat "$DATA/supervisor.pid" 2>/dev/null || true; }

supervisor_running() { lives "$(supervisor_pid)" supervise; }

note() { echo "$(date -u +%FT%TZ) $*" >>"$DATA/supervisor.log"; }

# Starts the supervisor apart from this terminal; it takes over what runs already.
supervisor_start() { # port
  echo "$1" >"$DATA/service.port"
  rm -f "$DATA/was-ready"
  DATA="$DATA" FIRST_PROJECT="$FIRST_PROJECT" FIRST_PROJECT_NAME="$FIRST_PROJECT_NAME" WANT_DB_PORT="${WANT_DB_PORT:-}" \
    setsid bash "$ROOT/cellar" supervise "$1" </dev/null >>"$DATA/supervisor.log" 2>&1 9>&- &
  SUPERVISOR_PID=$!
  keep_pid supervisor "$SUPERVISOR_PID"
}

# The body of the supervisor: one loop over both.
supervise() { # port
  local port="$1" pause=0 begun=""
  JSON=0
  [ -n "${VINE_DB_URL:-}" ] || find_postgres
  trap 'note "stopping"; exit 0' TERM INT
  while true; do
    if [ -z "${VINE_DB_URL:-}" ]; then
      if ! pg_running; then
        note "the database does not run: starting it"
        ( pg_start ) >>"$DATA/supervisor.log" 2>&1 || note "the database did not start; see $DATA/postgres.log"
      fi
      DB_PORT="$(cat "$DATA/db.port")"
      pg_env
    fi
    tracker_keep
    # Looked at in one place: who ends at any moment is spoken of before it is started again.
    if service_running; then
      begun="${begun:-$SECONDS}"
      [ $((SECONDS - begun)) -le 60 ] || pause=0
    else
      if [ -n "$begun" ]; then
        note "the service ended by itself after $((SECONDS - begun)) s; the end of its log:"
        tail -n 2 "$DATA/service.log" | cut -c1-300 >>"$DATA/supervisor.log"
        # One that ran for a while is started at once.
        if [ $((SECONDS - begun)) -gt 60 ]; then pause=0; elif [ "$pause" = 0 ]; then pause=1; else pause=$((pause * 2)); fi
        [ "$pause" -le 60 ] || pause=60
      fi
      if [ "$pause" -gt 0 ]; then
        note "starting the service again in $pause s"
        sleep "$pause" & wait $!
      fi
      service_launch "$port"
      note "the service runs as process $SERVICE_PID"
      begun=$SECONDS
    fi
    sleep 1 & wait $!
  done
}
