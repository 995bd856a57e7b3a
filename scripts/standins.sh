# Simulated outside systems that the demo speaks to. They run as long as the portal does.

tracker_pid() { cat "$DATA/tracker.pid" 2>/dev/null || true; }

tracker_port() { cat "$DATA/tracker.port" 2>/dev/null || true; }

# Only where the demo has chosen a port for it; the supervisor starts it again when it died.
tracker_keep() {
  [ -n "$(tracker_port)" ] || return 0
  if lives "$(tracker_pid)" TrackerStandIn; then return 0; fi
  setsid java -XX:+UseSerialGC -XX:TieredStopAtLevel=1 -Xmx64m \
    -cp "$ROOT/standins/target/standins-0.1.0.jar:$ROOT/client/target/vine.jar" \
    org.vinecellar.standins.tracker.TrackerStandIn "$(tracker_port)" "$DATA/tracker.json" \
    </dev/null >>"$DATA/tracker.log" 2>&1 9>&- &
  keep_pid tracker $!
}

tracker_start() {
  local port
  port="$(tracker_port)"
  if [ -z "$port" ] || { port_answers "$port" && ! lives "$(tracker_pid)" TrackerStandIn; }; then
    free_port >"$DATA/tracker.port"
  fi
  tracker_keep
  local i
  for i in $(seq 100); do
    port_answers "$(tracker_port)" && return 0
    sleep 0.1
  done
  die "the stand-in for a tracker did not start; see $DATA/tracker.log"
}

tracker_stop() {
  local pid i
  pid="$(tracker_pid)"
  if lives "$pid" TrackerStandIn; then
    kill "$pid" 2>/dev/null || true
    for i in $(seq 50); do lives "$pid" TrackerStandIn || break; sleep 0.1; done
    lives "$pid" TrackerStandIn && kill -9 "$pid" 2>/dev/null || true
  fi
  rm -f "$DATA/tracker.pid"
}
