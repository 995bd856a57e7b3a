# Builds what has changed since the last time.

STAMP="$ROOT/target/built"
JARS=(service/target/quarkus-app/quarkus-run.jar client/target/vine.jar demo/target/demo-0.1.0.jar standins/target/standins-0.1.0.jar
  listeners/junit/target/vine-junit-listener.jar)

# The console's API types are made by the build itself, out of a file that counts.
is_built() {
  [ -f "$STAMP" ] || return 1
  local jar
  for jar in "${JARS[@]}"; do [ -f "$ROOT/$jar" ] || return 1; done
  [ -z "$(find "$ROOT"/{core,store,console,service,client,listeners,standins,demo,pom.xml} \
    \( -name target -o -name node_modules -o -name dist -o -name schema.d.ts -o -path "$ROOT"'/*/src/test' \) -prune \
    -o -type f -newer "$STAMP" -print -quit)" ]
}

build() {
  if is_built; then return; fi
  need_tools
  say "building (a few minutes the first time) …"
  mkdir -p "$ROOT/target"
  local log="$ROOT/target/build.log" begun
  begun="$(mktemp "$ROOT/target/begun.XXXX")"
  if ! (umask 022 && cd "$ROOT" && mvn -q -B -ntp package -Dmaven.test.skip=true -Dspotless.check.skip=true \
    -pl rules,core,store,service,client,listeners/junit,standins,demo) >"$log" 2>&1; then
    grep -v '^\s*$\|^\s*at ' "$log" | tail -n 30 >&2
    rm -f "$begun"
    die "the build failed; the whole output is in $log"
  fi
  # What was edited while the build ran is newer than its beginning.
  mv "$begun" "$STAMP"
}
