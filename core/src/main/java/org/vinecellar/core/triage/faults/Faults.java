package org.vinecellar.core.triage.faults;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.Collection;
import java.util.EnumMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.phrases.PhraseTable;

/** Reads the fault of the environment that a text tells of. */
public final class Faults {
  private static final PhraseTable TABLE = PhraseTable.of(phrases());
  private static final Object[] MEANINGS = meanings();

  /** The number of the first phrase that is one of {@link Gaps}. */
  private static final int FIRST_GAP = MEANINGS.length - Gaps.ALL.size();

  /** Ways that need a component: without one, the words are as well those of a test that waited. */
  private static final Set<Way> NEEDS_COMPONENT =
      Set.of(
          Way.ANSWER_TIMEOUT,
          Way.CONNECT_TIMEOUT,
          Way.UNAVAILABLE,
          Way.LOGIN,
          Way.RESET,
          Way.THROTTLED,
          Way.READ_ONLY,
          Way.STARTING,
          Way.NO_LEADER,
          Way.LICENCE);

  /** Ways in which "may be meant otherwise" words must name the errno itself. */
  private static final Set<String> WEAK =
      Set.of(
          """
          failed to connect to | unable to connect to | can't connect to | could not connect to |
          cannot connect to | connection failure | connect() failed | connection to server at |
          resource temporarily unavailable | timeout of  | expiring  | 421 4. | out of memory |
          request timeout | connectionpool | serverselection | server selection | getaddrinfo |
          evicted | shutting down | is starting up | unexpected eof | connection closed |
          connection is closed | stream closed | end of file reached | end-of-file | :closed |
          connectionclosed | incomplete message | could not resolve | lookup failed | slowdown |
          unauthenticated | unable to launch | failed to launch | handshake failed |
          sslhandshakeexception | wait queue | connection not available |
          temporarily unavailable | connection lost | license file | unable to allocate |
          deadline exceeded | deadlineexceeded | operation timed out | request timed out |
          authentication failed | name resolution | failed to resolve | rate limit |
          communications link failure | docker daemon | altnames | doesn't match ' | not primary |
          no master | no primary | quota exceeded | proxy error | getaddrinfo failed |
          unable to obtain connection from database | certificate verify failed |
          failed to connect to all addresses | connection timed out |
          none of the specified endpoints were reachable | lost connection to |
          server has gone away | can't reach | cannot reach | could not reach | unable to reach |
          could not be reached | cannot be reached | is not reachable | no answer from |
          no response from | unable to open socket | could not establish connection |
          unable to establish connection | cannot establish connection | couldn't connect to |
          error trying to connect | tcp connect error | connection attempt failed |
          connection terminated | connection was reset | leader election | not the leader |
          socket timeout | the operation has timed out | ssl certificate problem |
          the remote certificate is invalid | the certificate for this server is invalid |
          failed to open socket | could not be resolved | 503 service | service_unavailable |
          signal 9 | no such image | failed to boot | unable to create session |
          unsupported engine | no more connections | max_connections | checkout timeout |
          acquisition timeout | non-existing domain | not possible to connect to |
          unable to bootstrap from"""
              .split("\\s*\\|\\s*"));

  private static final Pattern SERVICE_UNAVAILABLE = Pattern.compile("\\b503\\b");

  private static final Pattern TAB_CRASH =
      Pattern.compile("(?i)\\b(?:page|tab|target|renderer) (?:has )?crash");

  private static final Pattern IMAGE =
      Pattern.compile(
          "(?:\\b[Ii]mage[:= \"'`]{1,3}|imageName=|manifest for |pull access denied for |[Pp]ulling )([a-z0-9][\\w./-]{0,200}(?::\\d{2,5}/[\\w./-]{1,200})?)(?:[:@][\\w.:-]{1,140})?(?=[\"'`\\s,;.)]|$)");

  private static final Pattern RPC =
      Pattern.compile(
          "(?<![\\w/.:])/(?:[a-z][\\w]{0,40}\\.){1,6}([A-Z]\\w{2,80})/[A-Z]\\w{1,80}\\b");

  private static final Pattern OAUTH =
      Pattern.compile(
          "\\b(?:invalid_client|invalid_grant|unauthorized_client|unsupported_grant_type|invalid_scope)\\b");

  private static final Pattern POOL_NAME =
      Pattern.compile(
          "(?i)\\b([a-z][\\w-]{1,60}?)[-_ ]?pool(?:-\\d{1,4})?(?: - |: | \\(| is exhausted| exhausted| timed)|\\bpool [\"'`\\[(]?([a-z][\\w-]{2,60})[\"'`\\])]");

  private static final Set<String> NAMES_OF_LIBRARIES =
      Set.of(
          "hikari",
          "connection",
          "connections",
          "the",
          "thread",
          "a",
          "from",
          "default",
          "queue",
          "no",
          "db",
          "http",
          "client",
          "session",
          "this",
          "object",
          "agroal",
          "tomcat",
          "c3p0",
          "druid",
          "jdbc");

  private static final List<String> PHRASES = phrases();

  private Faults() {}

  private static Object[] meanings() {
    List<Object> all = new ArrayList<>();
    Vocabulary.WAYS.forEach((way, phrases) -> phrases.forEach(p -> all.add(way)));
    Vocabulary.KINDS.forEach((kind, phrases) -> phrases.forEach(p -> all.add(kind)));
    all.addAll(Gaps.ALL);
    return all.toArray();
  }

  /** All that is searched for, in the order of the meanings. */
  private static List<String> phrases() {
    List<String> all = new ArrayList<>(Vocabulary.phrases());
    Gaps.ALL.forEach(gap -> all.add(gap.needs()));
    return all;
  }

  /** What was found of one way. */
  private record Hit(Way way, int end, boolean weak) {}

  /**
   * @param text what the failure says, without frames and output
   * @param qualified names of functions in its frames, which tell the client
   * @return null when it tells of none
   */
  public static @Nullable Fault in(String text, Collection<String> qualified) {
    Map<Way, Hit> hits = new EnumMap<>(Way.class);
    Map<String, Integer> kinds = new java.util.LinkedHashMap<>();
    BitSet gaps = new BitSet();
    TABLE.search(
        text,
        (phrase, end) -> {
          Object meaning = MEANINGS[phrase];
          if (meaning instanceof Way way) {
            boolean weak = WEAK.contains(PHRASES.get(phrase).strip());
            Hit before = hits.get(way);
            if (before == null || (before.weak() && !weak)) {
              hits.put(way, new Hit(way, end, weak));
            }
          } else if (phrase >= FIRST_GAP) {
            gaps.set(phrase - FIRST_GAP);
          } else {
            kinds.merge((String) meaning, 1, Integer::sum);
          }
        });
    for (int i = gaps.nextSetBit(0); i >= 0; i = gaps.nextSetBit(i + 1)) {
      Gaps.Gap gap = Gaps.ALL.get(i);
      int end = gap.end(text);
      if (end >= 0) {
        hits.putIfAbsent(gap.way(), new Hit(gap.way(), end, false));
      }
    }
    if (hits.isEmpty()) {
      return null;
    }
    if (hits.containsKey(Way.FILES) && text.contains("watch")) {
      // ENOSPC stands for more than disks.
      hits.remove(Way.DISK_FULL);
    }
    Hit device = hits.get(Way.DEVICE);
    if (device != null && device.weak() && text.contains("not installed")) {
      // It is there, and what was to run on it is not.
      hits.remove(Way.DEVICE);
    }
    Hit refused = hits.get(Way.REFUSED);
    if (refused != null && refused.weak() && text.contains("FATAL: ")) {
      // Somebody answered.
      hits.remove(Way.REFUSED);
    }
    if (hits.isEmpty()) {
      return null;
    }
    if (hits.containsKey(Way.METASPACE) || hits.containsKey(Way.THREADS)) {
      // The JVM calls all of them by the name of one.
      hits.remove(Way.HEAP);
    }
    Hit hit = best(hits);
    if (hit.way() == Way.GATEWAY && SERVICE_UNAVAILABLE.matcher(text).find()) {
      Fault unavailable =
          fault(new Hit(Way.UNAVAILABLE, hit.end(), hit.weak()), text, kinds, qualified);
      if (unavailable != null) {
        return unavailable;
      }
    }
    return fault(hit, text, kinds, qualified);
  }

  /** Whether a text has words of a fault at all. */
  public static boolean mayTell(String text) {
    boolean[] found = new boolean[1];
    BitSet gaps = new BitSet();
    TABLE.search(
        text,
        (phrase, end) -> {
          found[0] |= MEANINGS[phrase] instanceof Way;
          if (phrase >= FIRST_GAP) {
            gaps.set(phrase - FIRST_GAP);
          }
        });
    return found[0] || gaps.stream().anyMatch(gap -> Gaps.ALL.get(gap).end(text) >= 0);
  }

  /** The most telling way; one that is named for certain before one that may be meant. */
  private static Hit best(Map<Way, Hit> hits) {
    for (Hit hit : hits.values()) {
      if (!hit.weak()) {
        return hit;
      }
    }
    return hits.values().iterator().next();
  }

  private static @Nullable Fault fault(
      Hit hit, String text, Map<String, Integer> kinds, Collection<String> qualified) {
    Way way = hit.way();
    if (way == Way.CONTAINERS || way == Way.IMAGE) {
      String image = image(text);
      return new Fault(way, image, "docker", image);
    }
    if (way.isLocal()) {
      return new Fault(way, "", local(way, text, kinds), "");
    }
    // What is asked for through a proxy is not to blame for it.
    boolean proxy = kinds.containsKey("proxy");
    Hosts.Host host = proxy ? null : nearest(Hosts.in(text), hit, text);
    String kind = host == null ? "" : Vocabulary.ofPort(host.port());
    if (kind.isEmpty() && host != null) {
      kind = Vocabulary.ofScheme(host.scheme());
    }
    if (proxy) {
      kind = "proxy";
    } else if (kind.isEmpty() && !kinds.isEmpty()) {
      kind = kinds.keySet().iterator().next();
    }
    if (kind.isEmpty()) {
      kind = ofFrames(qualified);
    }
    if (way == Way.LOGIN) {
      kind = withCode(kind, text);
    }
    String name = host == null ? "" : host.name();
    String shown = host == null ? "" : host.shown();
    if (Vocabulary.KINDS.containsKey(name)) {
      kind = name;
      name = "";
    }
    if (way == Way.POOL) {
      String pool = pool(text);
      name = pool.isEmpty() ? name : pool;
      shown = pool.isEmpty() ? shown : pool;
    }
    if (name.isEmpty() && kind.isEmpty()) {
      name = called(text);
      shown = name;
    }
    boolean nobody = name.isEmpty() && kind.isEmpty();
    if (nobody && (hit.weak() || NEEDS_COMPONENT.contains(way))) {
      return null;
    }
    return new Fault(way, name, kind, name.isEmpty() ? "" : shown);
  }

  /** The service of gRPC that was called; empty for none. */
  private static String called(String text) {
    Matcher called = RPC.matcher(text);
    return called.find() ? called.group(1) : "";
  }

  /** The image whose container does not start, without registry and version; empty for none. */
  private static String image(String text) {
    Matcher named = IMAGE.matcher(text);
    if (!named.find()) {
      return "";
    }
    String name = named.group(1);
    return name.substring(name.lastIndexOf('/') + 1);
  }

  /** What a client did wrong when it asked for a token, as RFC 6749 (5.2) calls it. */
  private static String withCode(String kind, String text) {
    Matcher code = OAUTH.matcher(text);
    return code.find() ? "oauth " + code.group() : kind;
  }

  /** What a pool is called that says that it is empty; nothing for names that libraries give. */
  private static String pool(String text) {
    Matcher named = POOL_NAME.matcher(text);
    while (named.find()) {
      String name = named.group(1) == null ? named.group(2) : named.group(1);
      String plain = name == null ? "" : Hosts.stem(name.replace('_', '-'));
      if (!plain.isEmpty() && !NAMES_OF_LIBRARIES.contains(plain)) {
        return plain;
      }
    }
    return "";
  }

  /** The client that called, as its own frames tell. */
  private static String ofFrames(Collection<String> qualified) {
    String[] found = {""};
    int seen = 0;
    for (String name : qualified) {
      if (seen++ > 40 || !found[0].isEmpty()) {
        break;
      }
      TABLE.search(
          name,
          (phrase, end) -> {
            if (found[0].isEmpty() && MEANINGS[phrase] instanceof String kind) {
              found[0] = kind;
            }
          });
    }
    return found[0];
  }

  /** The host in the line of the words, the nearest before or after them; else the first of all. */
  private static Hosts.@Nullable Host nearest(List<Hosts.Host> hosts, Hit hit, String text) {
    Hosts.Host best = null;
    int least = Integer.MAX_VALUE;
    for (Hosts.Host host : hosts) {
      int distance = Math.abs(host.at() - hit.end());
      boolean sameLine =
          text.indexOf('\n', Math.min(host.at(), hit.end())) < 0
              || text.indexOf('\n', Math.min(host.at(), hit.end()))
                  >= Math.max(host.at(), hit.end());
      distance += sameLine ? 0 : 100_000;
      distance += host.name().isEmpty() ? 10_000 : 0;
      if (distance < least) {
        least = distance;
        best = host;
      }
    }
    if (best != null && best.name().isEmpty()) {
      for (Hosts.Host host : hosts) {
        if (!host.name().isEmpty() && isSame(host, best)) {
          return host;
        }
      }
    }
    return best;
  }

  /** Whether an address may be that of a name: by their ports. */
  private static boolean isSame(Hosts.Host named, Hosts.Host address) {
    boolean web = named.scheme().startsWith("http") || named.scheme().startsWith("ws");
    return address.port() == 0
        || named.port() == address.port()
        || named.port() == 0 && web && Vocabulary.ofPort(address.port()).isEmpty();
  }

  private static String local(Way way, String text, Map<String, Integer> kinds) {
    String low = text.length() > 4_000 ? text.substring(0, 4_000) : text;
    return switch (way) {
      case DISK_FULL ->
          low.contains("could not extend") || low.contains("53100") || low.contains("DiskFull")
              ? "postgres"
              : low.contains("watermark")
                  ? "elasticsearch"
                  : low.contains("database or disk")
                      ? "sqlite"
                      : low.contains("KafkaStorage")
                          ? "kafka"
                          : kinds.containsKey("smtp") || low.contains("452 4.") ? "smtp" : "agent";
      case HEAP -> runtime(low);
      case DEVICE ->
          low.toLowerCase(java.util.Locale.ROOT).contains("device") || low.contains("imulator")
              ? "device"
              : browser(low);
      case CONTAINERS -> "docker";
      case METASPACE -> "jvm";
      default -> "agent";
    };
  }

  /** What of a browser does not work: one fix each. */
  private static String browser(String text) {
    if (text.contains("only supports") || text.contains("This version of ")) {
      return "browser driver";
    }
    if (TAB_CRASH.matcher(text).find()) {
      return "browser tab";
    }
    return text.contains("user data dir") ? "browser profile" : "browser";
  }

  private static String runtime(String text) {
    if (text.contains("java")
        || text.contains("Java")
        || text.contains("GC overhead")
        || text.contains("OutOfMemoryError")) {
      return text.contains("JavaScript")
          ? "node"
          : text.contains("irect buffer") ? "jvm-direct" : "jvm";
    }
    if (text.contains("heap limit") || text.contains("JavaScript")) {
      return "node";
    }
    if (text.contains("Allowed memory size")) {
      return "php";
    }
    if (text.contains("MemoryError") && !text.contains("NoMemoryError")) {
      return "python";
    }
    return text.contains("System.OutOfMemory")
        ? "dotnet"
        : text.contains("NoMemoryError") ? "ruby" : "process";
  }
}
