package org.vinecellar.core.triage.faults;

import java.util.ArrayList;
import java.util.BitSet;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.phrases.PhraseTable;

/** Finds the machines and services that a text names, with their ports. */
final class Hosts {
  /**
   * @param name without replica numbers and domains; empty for an address or this machine
   * @param shown as it was printed, but for domains; empty like the name
   * @param port 0 where unknown
   * @param scheme of its URL; empty for none
   * @param at where in the text
   */
  record Host(String name, String shown, int port, String scheme, int at) {}

  private static final int MAX_HOSTS = 12;

  private static final String NAME =
      "[A-Za-z0-9](?:[A-Za-z0-9_-]{0,62})(?:\\.[A-Za-z0-9_-]{1,62}){0,8}";

  private static final Pattern URL =
      Pattern.compile(
          "(?:jdbc:)?([a-zA-Z][a-zA-Z0-9+-]{1,20})(?::[a-z]{2,12})?://(?:[^\\s/@\"']{1,80}@|/(?=[A-Za-z0-9]))?(\\[[0-9a-f:]+\\]|"
              + NAME
              + ")(?::(\\d{1,5}))?");

  /**
   * A name before a port: a word with a dot or a dash, or one of letters, and an address behind a
   * slash.
   */
  private static final Pattern PAIR =
      Pattern.compile(
          "(?<![\\w./@-])("
              + NAME
              + ")(?:/(?:<unresolved>|\\d{1,3}(?:\\.\\d{1,3}){3}))?:(\\d{2,5})(?![\\w:.]?\\d)(?![\\w])");

  /** As Python prints an address. */
  private static final Pattern TUPLE =
      Pattern.compile("\\(['\"](" + NAME + ")['\"], (\\d{1,5})[,)]");

  /** hub=gate-hub port=9100. */
  private static final Pattern VALUED =
      Pattern.compile(
          "\\b[A-Za-z_]{2,20}[=:] ?[\"'`]?("
              + NAME
              + ")[\"'`]?[\\s,;&]{1,8}(?:[a-z_]{0,12})port[=:] ?[\"'`]?(\\d{1,5})");

  /** Where errors are explained, and names of schemas are from. */
  private static final Pattern DOCUMENTATION =
      Pattern.compile(
          "(?i)(?:^|\\.)(?:docs?|developers?|errors?|help|support|wiki|schemas?)\\.|(?:^|\\.)(?:haxx\\.se|curl\\.se|github\\.com|github\\.io|aka\\.ms|go\\.dev|pris\\.ly|npmjs\\.\\w+|python\\.org|php\\.net|w3\\.org|xmlsoap\\.org|apache\\.org|mozilla\\.org|stackoverflow\\.com|readthedocs\\.\\w+|spring\\.io|pydantic\\.dev|microsoft\\.com|oracle\\.com|postgresql\\.org|selenium\\.dev|reactjs\\.org|react\\.dev|sqlalche\\.me)$");

  private static final Pattern SIX = Pattern.compile("\\[[0-9a-fA-F:.]{2,45}\\]:(\\d{1,5})\\b");

  /** {@code hub.ferry.example 5672}: a name with its domain, and a port behind it. */
  private static final Pattern APART =
      Pattern.compile(
          "(?<![\\w./@-])([a-z][a-z0-9-]{0,62}(?:\\.[a-z][a-z0-9-]{0,62}){1,8}) (\\d{2,5})(?![\\w.])");

  private static final String POINTED_NAME =
      "[<'\"`(\\[{]{0,2}("
          + NAME
          + ")[>'\"`)\\]}]{0,2}(?:[:,]? ?(?:\\([^)]{1,40}\\),? ?)?(?:port |port=|:)[\"'`]?(\\d{1,5}))?";

  /** Words after which nothing but a host stands. */
  private static final Pattern POINTED =
      Pattern.compile(
          "(?i)(?:\\blookup |\\bresolve hosts?:? |\\bENOTFOUND |\\bEAI_AGAIN |UnknownHost(?:Exception|Error)?:? |unknown host:? |\\bhost ?name[:=]? |getaddrinfo\\(|getaddrinfo for |no such host is known\\.? \\(|\\bCN=|\\bDomain\\(\"|\\bhost name )"
              + POINTED_NAME);

  /** Words after which a host may stand: what follows must look like one. */
  private static final Pattern HINTED =
      Pattern.compile(
          "(?i)(?:\\bresolve (?:address |name )?|\\bhost[:=]? ?|\\bserver at |\\bserver host |\\bserver on |\\baddress |connect(?:ion)? to |connecting to |\\bserver |(?<![{,] )\\bname: |\\bfor domain |\\bcluster:? |\\bonto |\\bhost is |\\bcertificate (?:for|of) |\\bfor host |\\bpeer |\\bbroker |\\bnode |\\bupstream |\\bhosts:? )"
              + POINTED_NAME);

  /** With what {@link #POINTED} may begin. */
  private static final PhraseTable POINTERS =
      PhraseTable.of(
          List.of(
              "lookup",
              "resolve host",
              "enotfound",
              "eai_again",
              "unknownhost",
              "unknown host",
              "host name",
              "hostname",
              "getaddrinfo",
              "no such host is known",
              "cn=",
              "domain(\""));

  /** With what {@link #HINTED} may begin. */
  private static final PhraseTable HINTS =
      PhraseTable.of(
          List.of(
              "resolve",
              "host",
              "server",
              "address",
              "connect",
              "name:",
              "for domain",
              "cluster",
              "onto",
              "certificate",
              "for host",
              "peer",
              "broker",
              "node",
              "upstream"));

  /** What {@link #BEFORE} needs. */
  private static final PhraseTable UNKNOWN =
      PhraseTable.of(
          List.of(
              "name or service not known",
              "nodename nor",
              "temporary failure in name",
              "no address associated",
              "name does not resolve",
              "no such host",
              "nxdomain",
              "forward host lookup failed"));

  private static final Pattern BEFORE =
      Pattern.compile(
          "(?<![\\w./@-])("
              + NAME
              + "): (?:Name or service not known|nodename nor|Temporary failure in name|No address associated|Name does not resolve|No such host|nxdomain|no such host|forward host lookup failed)");

  private static final Pattern NUMBERED =
      Pattern.compile(
          "(?:\\bport[= ]+|\\bon |(?<![\\w.)\\]]):|(?<=\\d\\.\\d{1,3}):|\\]:)(\\d{2,5})\\b");

  private static final Set<String> HERE =
      Set.of("localhost", "localhost4", "localhost6", "host", "ip6-localhost", "here", "loopback");

  /** Words that follow pointing words without being names of hosts. */
  private static final Set<String> NO_NAMES =
      Set.of(
          """
          ipv ipv4 ipv6 unix dns target a addr address after all already an and and/or any api at be before broker by can
          cannot certificate client closed code connect connection could database dial did
          disconnected docker does down e endpoint endpoints errno error errors establish
          exception exist failed for from getaddrinfo has host hostname http https id in info
          information ip is issuer it its kafka known list local login lookup message mismatch
          mysql name names no node nodes not null of on or os our peer port postgres
          postgresql process read redis refused rejected remote remote-server reset resolution
          resolve responded returned role s sent server service services shutdown socket
          specified sqlstate ssl starting system tcp terminated that the this timed tls to
          type udp unavailable unexpectedly unknown unreachable url user verification via was
          with within write your"""
              .split("\\s+"));

  private static final Pattern REPLICA =
      Pattern.compile(
          "(?:-[a-f0-9]{8,10}-[a-z0-9]{5}|-[a-z0-9]{9,10}-[a-z0-9]{5}|[-_.]?(?:primary|replica|standby|master|slave|leader|follower|reader|writer|rw|ro|node|pod|shard|instance|broker|member|headless|svc|internal|local)(?=[-_.]?\\d*$)|[-_.]?\\d{1,4}|-[a-f0-9]{6,12}(?<=\\d[a-f0-9]{0,11}))$");

  private static final Pattern STAGE =
      Pattern.compile(
          "^(?:staging|stage|stg|prod|prd|production|dev|test|tst|qa|int|uat|ci|preprod|perf|eu|us|nightly)[-_.](?=[a-z]{2})|[-_.](?:staging|stage|stg|prod|prd|production|dev|test|tst|qa|uat|ci|preprod|perf|nightly)$");

  private static final Set<String> FILE_ENDINGS =
      Set.of(
          "java", "kt", "py", "rb", "go", "rs", "js", "ts", "tsx", "jsx", "mjs", "cjs", "php", "cs",
          "cc", "cpp", "c", "h", "hpp", "scala", "swift", "dart", "ex", "exs", "groovy", "feature",
          "robot", "bats", "sh", "t", "pm", "lua", "html", "css", "vue", "line", "sql", "spec");

  private static final Pattern LIKE_A_HOST = Pattern.compile("[a-z][-.]?\\d|[.-]");
  private static final Pattern HASH = Pattern.compile("[0-9a-f]{8,}");
  private static final Pattern CAPITALS = Pattern.compile("[A-Z]{2,}[A-Z0-9_]*");
  private static final Pattern ADDRESS = Pattern.compile("[\\d.]+");
  private static final Pattern ADDRESS_OF_SIX = Pattern.compile("[0-9a-f]*:[0-9a-f:]+");

  private Hosts() {}

  private static Host named(String host, int port, String scheme, int at) {
    String name = stem(host);
    String low = host.toLowerCase(Locale.ROOT);
    int dot = low.indexOf('.');
    String shown = dot > 0 && !low.startsWith("www.") ? low.substring(0, dot) : low;
    return new Host(name, name.isEmpty() ? "" : withoutReplica(shown, name), port, scheme, at);
  }

  /** A number at its end is not shown where it is no part of the name. */
  private static String withoutReplica(String shown, String name) {
    int end = shown.length();
    while (end > 0 && Character.isDigit(shown.charAt(end - 1))) {
      end--;
    }
    boolean numbered = end < shown.length() && end > 1 && shown.charAt(end - 1) == '-';
    return numbered && !name.endsWith(shown.substring(end)) ? shown.substring(0, end - 1) : shown;
  }

  static List<Host> in(String text) {
    List<Host> found = new ArrayList<>();
    String bounded = text.length() > 6_000 ? text.substring(0, 6_000) : text;
    if (bounded.contains("', ") || bounded.contains("\", ")) {
      Matcher tuple = TUPLE.matcher(bounded);
      while (found.size() < MAX_HOSTS && tuple.find()) {
        found.add(named(tuple.group(1), port(tuple.group(2)), "", tuple.start()));
      }
    }
    if (bounded.contains("]:")) {
      Matcher six = SIX.matcher(bounded);
      while (found.size() < MAX_HOSTS && six.find()) {
        found.add(new Host("", "", port(six.group(1)), "", six.start()));
      }
    }
    if (bounded.contains("://")) {
      urls(bounded, found);
    }
    if (hasPort(bounded)) {
      Matcher pair = PAIR.matcher(bounded);
      while (found.size() < MAX_HOSTS && pair.find()) {
        if (isHost(pair.group(1))
            && !isTestAtLine(pair.group(1), pair.group(2))
            && !isResolver(bounded, pair.start(), pair.group(2))) {
          found.add(named(pair.group(1), port(pair.group(2)), "", pair.start()));
        }
      }
    }
    if (UNKNOWN.isIn(bounded)) {
      Matcher before = BEFORE.matcher(bounded);
      while (found.size() < MAX_HOSTS && before.find()) {
        if (isHost(before.group(1))
            && !NO_NAMES.contains(before.group(1).toLowerCase(Locale.ROOT))) {
          found.add(named(before.group(1), 0, "", before.start()));
        }
      }
    }
    if (bounded.contains("port=") || bounded.contains("port:")) {
      Matcher valued = VALUED.matcher(bounded);
      while (found.size() < MAX_HOSTS && valued.find()) {
        if (isHost(valued.group(1)) && !isNumber(valued.group(1))) {
          found.add(named(valued.group(1), port(valued.group(2)), "", valued.start(1)));
        }
      }
    }
    pointed(POINTERS, POINTED, bounded, false, found);
    pointed(HINTS, HINTED, bounded, true, found);
    if (found.isEmpty()) {
      Matcher apart = APART.matcher(bounded);
      if (apart.find() && isHost(apart.group(1))) {
        found.add(named(apart.group(1), port(apart.group(2)), "", apart.start()));
      }
    }
    if (found.isEmpty()) {
      Matcher port = NUMBERED.matcher(bounded);
      while (port.find()) {
        if (!Vocabulary.ofPort(port(port.group(1))).isEmpty()) {
          found.add(new Host("", "", port(port.group(1)), "", port.start()));
          break;
        }
      }
    }
    return found;
  }

  private static void urls(String text, List<Host> found) {
    Matcher url = URL.matcher(text);
    while (found.size() < MAX_HOSTS && url.find()) {
      boolean drive = url.group(2).length() == 1 || url.group(1).equalsIgnoreCase("file");
      if (!drive && !DOCUMENTATION.matcher(url.group(2)).find()) {
        found.add(
            named(
                url.group(2),
                port(url.group(3)),
                url.group(1).toLowerCase(Locale.ROOT),
                url.start()));
      }
    }
  }

  /** Whether two digits stand behind a colon. */
  private static boolean hasPort(String text) {
    int colon = text.indexOf(':');
    while (colon >= 0 && colon + 2 < text.length()) {
      if (isDigit(text.charAt(colon + 1)) && isDigit(text.charAt(colon + 2))) {
        return true;
      }
      colon = text.indexOf(':', colon + 1);
    }
    return false;
  }

  private static boolean isDigit(char c) {
    return c >= '0' && c <= '9';
  }

  /**
   * @param begins with what the pattern may begin: it is tried nowhere else
   */
  private static void pointed(
      PhraseTable begins, Pattern pattern, String text, boolean mustLook, List<Host> found) {
    BitSet starts = begins.starts(text);
    if (starts.isEmpty()) {
      return;
    }
    Matcher pointed = pattern.matcher(text).useTransparentBounds(true).useAnchoringBounds(false);
    int from = 0;
    for (int at = starts.nextSetBit(0); at >= 0; at = starts.nextSetBit(from)) {
      from = at + 1;
      if (found.size() >= MAX_HOSTS || !pointed.region(at, text.length()).lookingAt()) {
        continue;
      }
      String name = pointed.group(1);
      // A word that points may itself be pointed at.
      from = Math.max(pointed.start(1), at + 1);
      boolean looks =
          LIKE_A_HOST.matcher(name).find()
              || pointed.group(2) != null
              || pointed.start(1) > 0 && "'\"`".indexOf(text.charAt(pointed.start(1) - 1)) >= 0;
      if ((looks || !mustLook)
          && isHost(name)
          && !NO_NAMES.contains(name.toLowerCase(Locale.ROOT))
          && !isNumber(name)) {
        found.add(named(name, port(pointed.group(2)), "", pointed.start(1)));
      }
    }
  }

  /** Names of files and versions look like names of hosts. */
  private static boolean isHost(String name) {
    int dot = name.lastIndexOf('.');
    String last = dot < 0 ? "" : name.substring(dot + 1).toLowerCase(Locale.ROOT);
    boolean file = FILE_ENDINGS.contains(last);
    boolean type =
        dot >= 0
            && Character.isUpperCase(name.charAt(dot + 1))
            && !name.equals(name.toUpperCase(Locale.ROOT));
    boolean error =
        name.startsWith("0x")
            || HASH.matcher(name).matches()
            || name.endsWith("Exception")
            || name.endsWith("Error")
            || CAPITALS.matcher(name).matches();
    return !file && !type && !error;
  }

  /** {@code board.test:42} is a place; with a port or a longer name it is of a domain for tests. */
  private static boolean isTestAtLine(String name, String number) {
    return name.endsWith(".test") && name.indexOf('.') == name.length() - 5 && number.length() < 4;
  }

  private static boolean isNumber(String name) {
    return name.chars().allMatch(Character::isDigit);
  }

  /** "on 10.96.0.10:53" names who was asked. */
  private static boolean isResolver(String text, int at, String port) {
    return port.equals("53") && at >= 3 && text.startsWith("on ", at - 3);
  }

  private static int port(@Nullable String digits) {
    return digits == null ? 0 : Integer.parseInt(digits);
  }

  /**
   * What a host is called without domain, replica and stage; empty for an address or this machine.
   */
  static String stem(String host) {
    String low = host.toLowerCase(Locale.ROOT);
    if (low.startsWith("[")
        || ADDRESS.matcher(low).matches()
        || low.startsWith("ip-")
        || HERE.contains(low)
        || low.startsWith("host.docker")
        || low.indexOf(':') >= 0 && ADDRESS_OF_SIX.matcher(low).matches()) {
      return "";
    }
    int dot = low.indexOf('.');
    String name = dot < 0 ? low : low.substring(0, dot);
    if (name.equals("www") && dot > 0) {
      name = stem(low.substring(dot + 1));
    }
    for (int i = 0; i < 4; i++) {
      String shorter = STAGE.matcher(REPLICA.matcher(name).replaceFirst("")).replaceFirst("");
      if (shorter.equals(name) || shorter.isEmpty()) {
        break;
      }
      name = shorter;
    }
    return HERE.contains(name) ? "" : name;
  }
}
