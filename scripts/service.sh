# The service's process.

service_pid() { cat "$DATA/service.pid" 2>/dev/null || true; }

service_running() { lives "$(service_pid)" quarkus-run.jar; }

service_port() { cat "$DATA/service.port" 2>/dev/null || true; }

# One process of the service; the supervisor starts it again and again.
service_launch() { # port
  local database=()
  if [ -z "${VINE_DB_URL:-}" ]; then
    database=(VINE_DB_URL="$DB_URL" VINE_DB_USER=vine VINE_DB_PASSWORD_FILE="$DATA/db.password"
      VINE_DATA_DATABASE="$DATA/postgres")
  fi
  # Settings of the operator come from the environment and pass through.
  # Bundles have an origin of their own: a second port.
  local bundles=0
  if [ "$1" = 8420 ]; then bundles=8421; fi
  local hosts="${VINE_TRACKER_HOSTS:-}"
  if [ -z "$hosts" ] && [ -n "$(tracker_port)" ]; then hosts="127.0.0.1:$(tracker_port)"; fi
  if [ -n "$hosts" ]; then database+=(VINE_TRACKER_HOSTS="$hosts"); fi
  env "${database[@]}" VINE_PORT="$1" VINE_BUNDLE_PORT="${VINE_BUNDLE_PORT:-$bundles}" \
    VINE_DATA_DIR="${VINE_DATA_DIR:-$DATA/service}" \
    VINE_CLIENT_JAR="${VINE_CLIENT_JAR:-$ROOT/client/target/vine.jar}" \
    VINE_CLIENT_LISTENER="${VINE_CLIENT_LISTENER:-$ROOT/listeners/junit/target/vine-junit-listener.jar}" \
    VINE_FIRST_ACCESS_FILE="$DATA/first-access.json" \
    VINE_FIRST_PROJECT="$FIRST_PROJECT" VINE_FIRST_PROJECT_NAME="$FIRST_PROJECT_NAME" \
    setsid java ${VINE_JAVA_OPTS:--Xmx512m} -XX:+UseG1GC -XX:+ExitOnOutOfMemoryError -Dfile.encoding=UTF-8 \
    -jar "$ROOT/service/target/quarkus-app/quarkus-run.jar" </dev/null >>"$DATA/service.log" 2>&1 9>&- &
  SERVICE_PID=$!
  keep_pid service "$SERVICE_PID"
}

is_ready() { [ "$(http_status "$1" /health/ready 2>/dev/null || true)" = 200 ]; } # port

# What the service said last: in its own words when there are some, else the end of its log.
why_it_ended() {
  local words
  words="$(tail -n 20 "$DATA/service.log" | sed -n 's/.*"exceptionType":"[^"]*CellarException","message":"\(\([^"\\]\|\\.\)*\)".*/\1/p' | tail -n 1 | sed 's/\\\(["\\]\)/\1/g')"
  if [ -n "$words" ]; then warn "$words"; else tail -n 3 "$DATA/service.log" | cut -c1-600; fi
}

service_wait_ready() { # port
  local i died=0 pid
  for i in $(seq 900); do
    pid="$(service_pid)"
    # The supervisor would try for ever; who starts wants to hear what is wrong.
    if [ -n "$pid" ] && ! kill -0 "$pid" 2>/dev/null; then died=$((died + 1)); fi
    if [ "$died" -gt 5 ] && [ ! -f "$DATA/was-ready" ]; then
      why_it_ended >&2
      return 1
    fi
    if is_ready "$1"; then touch "$DATA/was-ready"; return 0; fi
    sleep 0.1
  done
  warn "the service was not ready within 90 seconds"
  return 1
}

service_stop() {
  local pid i
  pid="$(supervisor_pid)"
  if lives "$pid" supervise; then
    kill "$pid" 2>/dev/null || true
    for i in $(seq 50); do lives "$pid" supervise || break; sleep 0.1; done
    lives "$pid" supervise && kill -9 "$pid" 2>/dev/null || true
  fi
  rm -f "$DATA/supervisor.pid" "$DATA/was-ready"
  pid="$(service_pid)"
  if lives "$pid" quarkus-run.jar; then
    kill "$pid" 2>/dev/null || true
    for i in $(seq 200); do
      lives "$pid" quarkus-run.jar || break
      sleep 0.1
    done
    lives "$pid" quarkus-run.jar && kill -9 "$pid" 2>/dev/null || true
  fi
  rm -f "$DATA/service.pid"
  tracker_stop
}
