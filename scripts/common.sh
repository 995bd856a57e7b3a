# Words to the person, ports, processes.

# Nothing that is written here is for anybody else on the machine.
umask 077

say() { [ "${JSON:-0}" = 1 ] && echo "$*" >&2 || echo "$*"; }
warn() { echo "cellar: $*" >&2; }
die() { warn "$*"; exit 1; }

am_root() { [ "$(id -u)" = 0 ]; }

port_answers() { (exec 3<>"/dev/tcp/127.0.0.1/$1") 2>/dev/null; }

# Below the ports from which connections go out: one of those may be taken a moment later, and answers nobody.
free_port() {
  local port
  for _ in $(seq 200); do
    port=$((20000 + RANDOM % 12000))
    port_answers "$port" || { echo "$port"; return; }
  done
  die "found no free port on 127.0.0.1"
}

# At once, so that nobody reads half of it.
keep_pid() { # name pid
  echo "$2" >"$DATA/$1.pid.new"
  mv -f "$DATA/$1.pid.new" "$DATA/$1.pid"
}

# Whether a process lives and its command line holds a word: pid files outlive reboots.
lives() { # pid word
  [ -n "${1:-}" ] && [ -r "/proc/$1/cmdline" ] && { tr '\0' ' ' <"/proc/$1/cmdline"; } 2>/dev/null | grep -q -- "$2"
}

json_value() { # file key
  [ -f "$1" ] || return 0
  sed -n "s/.*\"$2\":\"\([^\"]*\)\".*/\1/p" "$1" | head -n1
}

json_or_null() { if [ -n "${1:-}" ]; then printf '"%s"' "$1"; else printf null; fi; }

# The status line of a GET, without needing curl on the machine.
http_status() { # port path
  local line=""
  exec 3<>"/dev/tcp/127.0.0.1/$1" || return 1
  printf 'GET %s HTTP/1.1\r\nHost: 127.0.0.1\r\nConnection: close\r\n\r\n' "$2" >&3
  read -r -t 10 line <&3 || true
  # To the end: a request that is broken off counts as under way when the service stops.
  timeout 5 cat <&3 >/dev/null || true
  exec 3<&- 3>&-
  echo "$line" | cut -d' ' -f2
}
