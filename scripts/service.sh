# The service's process.

service_pid() { cat "$DATA/service.pid" 2>/dev/null || true; }

service_running() { lives "$(service_pid)" quarkus-run.jar; }

service_port() { cat "$DATA/service.port" 2>/dev/null || true; }

service_launch() { # port
  local database=()
  if [ -n "${VINE_DB_URL:-}" ]; then
    say "using the database of VINE_DB_URL"
  else
    database=(VINE_DB_URL="$DB_URL" VINE_DB_USER=vine VINE_DB_PASSWORD="$DB_PASSWORD")
  fi
  rm -f "$DATA/first-access.json"
  echo "$1" >"$DATA/service.port"
  # Settings of the operator come from the environment and pass through.
  # Bundles have an origin of their own: a second port.
  local bundles=0
  if [ "$1" = 8420 ]; then bundles=8421; fi
  env "${database[@]}" VINE_PORT="$1" VINE_BUNDLE_PORT="${VINE_BUNDLE_PORT:-$bundles}" \
    VINE_CLIENT_JAR="${VINE_CLIENT_JAR:-$ROOT/client/target/vine.jar}" \
    VINE_FIRST_ACCESS_FILE="$DATA/first-access.json" \
    VINE_FIRST_PROJECT="$FIRST_PROJECT" VINE_FIRST_PROJECT_NAME="$FIRST_PROJECT_NAME" \
    setsid java ${VINE_JAVA_OPTS:--Xmx512m} -XX:+UseG1GC -Dfile.encoding=UTF-8 \
    -jar "$ROOT/service/target/quarkus-app/quarkus-run.jar" </dev/null >>"$DATA/service.log" 2>&1 &
  SERVICE_PID=$!
  echo "$SERVICE_PID" >"$DATA/service.pid"
}

service_wait_ready() { # port
  local i
  for i in $(seq 600); do
    if ! kill -0 "$SERVICE_PID" 2>/dev/null; then
      tail -n 5 "$DATA/service.log" | cut -c1-600 >&2
      return 1
    fi
    if [ "$(http_status "$1" /q/health/ready 2>/dev/null || true)" = 200 ]; then return 0; fi
    sleep 0.1
  done
  warn "the service was not ready within a minute"
  return 1
}

service_stop() {
  local pid
  pid="$(service_pid)"
  if lives "$pid" quarkus-run.jar; then
    kill "$pid" 2>/dev/null || true
    local i
    for i in $(seq 200); do
      lives "$pid" quarkus-run.jar || break
      sleep 0.1
    done
    lives "$pid" quarkus-run.jar && kill -9 "$pid" 2>/dev/null || true
  fi
  rm -f "$DATA/service.pid"
}
