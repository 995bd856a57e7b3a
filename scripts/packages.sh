# What the machine needs. As root it is installed; otherwise the command is printed.

need_tools() {
  local missing=()
  command -v java >/dev/null || missing+=(openjdk-17-jdk-headless)
  command -v mvn >/dev/null || missing+=(maven)
  command -v node >/dev/null || missing+=(nodejs)
  command -v npm >/dev/null || missing+=(npm)
  [ ${#missing[@]} = 0 ] || need_packages "${missing[@]}"
  local major
  major="$(java -XshowSettings:properties -version 2>&1 | sed -n 's/.*java.specification.version = //p')"
  [ "${major%%.*}" -ge 17 ] 2>/dev/null || die "Java 17 or later is needed; 'java' here is $major"
  major="$(node -p 'process.versions.node.split(".")[0]')"
  [ "$major" -ge 20 ] || die "Node 20 or later is needed to build the console; 'node' here is $major"
}

need_postgres() {
  find_postgres || { need_packages postgresql; find_postgres; } \
    || die "PostgreSQL was installed but its programs are not below /usr/lib/postgresql"
}

need_chromium() {
  command -v curl >/dev/null || need_packages curl
  [ -x /usr/bin/chromium ] || need_packages chromium
  # Names of tests are written in every script; without a font for them they show as boxes.
  [ -n "$(find /usr/share/fonts -iname 'NotoSansCJK*' -print -quit 2>/dev/null)" ] || need_packages fonts-noto-cjk
}

need_packages() {
  local command="apt-get install -y --no-install-recommends $*"
  if ! am_root; then
    warn "missing on this machine: $*. Install with:"
    echo "  sudo apt-get update && sudo $command" >&2
    exit 1
  fi
  say "installing $* …"
  local log
  log="$(mktemp)"
  # An installation that starts a server of its own would only be in the way.
  if ! { apt-get update -q && DEBIAN_FRONTEND=noninteractive RUNLEVEL=1 $command; } >"$log" 2>&1; then
    tail -n 20 "$log" >&2
    die "could not install $*; the output above says why (whole: $log)"
  fi
  rm -f "$log"
}
