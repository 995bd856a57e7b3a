package org.vinecellar.core.triage.code;

import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.vinecellar.core.triage.reading.Frame;

/**
 * Code that many others call for what has nothing to do with its own purpose: guards, unwrapping,
 * retries, access to a component. That cannot be learned from how many call it: a fare table has
 * many callers too. Names tell.
 */
final class HelperNames {
  /** Who is called so helps, whatever it is for. */
  private static final Pattern HELPER =
      Pattern.compile(
          ".*(?:utils?|utilities|helpers?|guards?|preconditions?|invariants?|commons?)");

  /** Whole names of things that help. */
  private static final Set<String> WHOLE =
      words(
          """
          guard guards ensure require requires check checks contract contracts verify validate
          retry retries retrier retrying either option optionals objects strings lists maps
          collections json jsons xml dates clock clocks io files must expect try safe unsafe
          invoke invoker lazy memo memoize assert asserts assertions validators support supports futures
          promises async asyncs await awaiter concurrency executors threading results maybe
          stub stubs lookups nulls arguments numbers iterables throwables unchecked
          wrappers unwrapper interceptor middleware proxies cached wire""");

  /** Words of names that say how something is done, and not what for. */
  private static final Set<String> HOW =
      words(
          """
          http https rest api json xml yaml web rpc grpc graphql soap tcp socket db sql jdbc orm pg
          postgres postgresql mysql mongo redis cache kafka amqp rabbit rabbitmq queue broker mq
          s3 blob bucket object storage ldap smtp mail ftp sftp data database datasource remote
          network net elastic search event message messaging topic stream abstract base generic
          default simple async null non not safe lazy future futures promise promises optional
          result results thread threading retry retries retrying unit of work entity tx
          transaction transactional error exception response request http2 service file io""");

  /** Last words of such names. */
  private static final Set<String> ROLE =
      words(
          """
          client gateway access accessor session template pool connection connector executor
          driver caller transport channel facade bus manager layer factory provider runner
          invoker base call fetcher request requests wrapper context source handle handler link
          port unwrapper retrier retryer retrying policy assert asserts assertion assertions
          assertor validator validators check checks checker ensures requires optionals maybe
          futures promises asyncs await awaiter concurrency executors proxies proxy interceptor
          decorator aspect middleware dispatcher delegate adapter support supports work
          repository dao service""");

  /** Names of functions that say what they help with. */
  private static final Pattern FUNCTION =
      Pattern.compile(
          "(?:must|ensure|require|requires|assert|check|verify|guard|expect|unwrap|invariant|precondition|validate)(?:that|is|not|non|or|throw|fail|null|none|nil|empty|present|some|ok|state|argument|arg|index|type|valid|value|positive|negative|found|exists|true|false|element|length|range)+"
              + "|(?:get|fetch|load|find)?(?:orelse|or)(?:throw|fail|raise)|getorthrow|valueorthrow|orelsethrow|not(?:null|none|nil|empty)|non(?:null|none|nil|empty)|bang"
              + "|(?:with|do|run|execute|call|in)+(?:retry|retries|retrying|transaction|timeout|lock|session|connection|backoff|deadline)|retry|retries|retrying|withretry|withretries|retryuntil|intransaction|transact|await|awaitall|runblocking"
              + "|(?:do|send|make|perform)?(?:http)?request|fetchjson|getjson|postjson|httpget|httppost|dorequest|parsejson|readjson|tojson|fromjson|rethrow|reraise|unwrap|unwraporelse|propagate|sneakythrow");

  /** Names of functions that help where nothing says what they are for. */
  private static final Set<String> SHORT =
      words(
          """
          must ensure require requires assert check verify guard expect invariant precondition
          validate wrap block blocking throw fail raise""");

  private static final Pattern PACKAGE =
      Pattern.compile(
          "(?:^|[./\\\\:])(?:utils?|commons?|helpers?|supports?|guards?|shared|infra|infrastructure|plumbing|toolbox|toolkit|foundation|libs)(?:$|[./\\\\:])");

  private HelperNames() {}

  static boolean isOne(Frame frame) {
    String stem = frame.fileStem();
    String function = plain(frame.function());
    if (!function.isEmpty() && FUNCTION.matcher(function).matches()) {
      return true;
    }
    boolean owned = !frame.owner().isEmpty();
    if (isHelper(frame.owner())
        || (!owned || !plain(stem).equals(plain(frame.owner()))) && isHelper(stem)) {
      return true;
    }
    if (SHORT.contains(function) && !owned && stem.isEmpty()) {
      return true;
    }
    String where =
        frame.path().isEmpty() || isJvm(frame.path())
            ? packageOf(frame.qualified())
            : directory(frame.path());
    return PACKAGE.matcher(where.toLowerCase(Locale.ROOT)).find()
        || isHelperOf(where, owned ? frame.owner() : stem);
  }

  /** {@code db/session.py} and {@code http.Client} are called after how by two names together. */
  private static boolean isHelperOf(String where, String name) {
    int end = where.length();
    while (end > 0 && !Character.isLetterOrDigit(where.charAt(end - 1))) {
      end--;
    }
    int start = end;
    while (start > 0 && Character.isLetterOrDigit(where.charAt(start - 1))) {
      start--;
    }
    return end > start
        && wordsOf(name).size() == 1
        && isHelper(where.substring(start, end) + "_" + name);
  }

  private static boolean isJvm(String path) {
    return path.endsWith(".java")
        || path.endsWith(".kt")
        || path.endsWith(".scala")
        || path.endsWith(".groovy");
  }

  private static String packageOf(String qualified) {
    int cut = qualified.indexOf('(');
    String name = cut > 0 ? qualified.substring(0, cut) : qualified;
    // Up to the class: neither that nor the function is a package.
    for (int i = 0; i < name.length(); i++) {
      boolean starts =
          i == 0
              || name.charAt(i - 1) == '.'
              || name.charAt(i - 1) == ':'
              || name.charAt(i - 1) == '\\';
      if (starts
          && i > 0
          && Character.isUpperCase(name.charAt(i))
          && name.indexOf('.', i) > 0
          && Character.isLowerCase(name.charAt(0))) {
        return name.substring(0, i);
      }
    }
    int last =
        Math.max(name.lastIndexOf('.'), Math.max(name.lastIndexOf("::"), name.lastIndexOf('\\')));
    if (last <= 0) {
      return "";
    }
    String owner = name.substring(0, last);
    int before =
        Math.max(
            owner.lastIndexOf('.'), Math.max(owner.lastIndexOf("::"), owner.lastIndexOf('\\')));
    return before <= 0 ? "" : owner.substring(0, before + 1);
  }

  private static String directory(String path) {
    int slash = Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\'));
    if (slash <= 0) {
      return "";
    }
    // An agent's own directories are no packages: only the last two count.
    String directory = path.substring(0, slash);
    int one = Math.max(directory.lastIndexOf('/'), directory.lastIndexOf('\\'));
    int two =
        one <= 0
            ? -1
            : Math.max(directory.lastIndexOf('/', one - 1), directory.lastIndexOf('\\', one - 1));
    return directory.substring(two + 1);
  }

  /** Whether a class or file is called after how it does something. */
  private static boolean isHelper(String name) {
    if (name.isEmpty()) {
      return false;
    }
    String plain = plain(name);
    if (HELPER.matcher(plain).matches() || WHOLE.contains(plain)) {
      return true;
    }
    List<String> words = wordsOf(name);
    if (words.size() < 2 || !ROLE.contains(words.get(words.size() - 1))) {
      return false;
    }
    return HOW.containsAll(words.subList(0, words.size() - 1));
  }

  /** The words of {@code HttpClient}, {@code http_client} and {@code http-client}. */
  private static List<String> wordsOf(String name) {
    List<String> words = new ArrayList<>();
    StringBuilder word = new StringBuilder();
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      boolean letter = Character.isLetterOrDigit(c);
      boolean starts =
          Character.isUpperCase(c)
              && i > 0
              && (Character.isLowerCase(name.charAt(i - 1))
                  || i + 1 < name.length() && Character.isLowerCase(name.charAt(i + 1)));
      if ((!letter || starts) && word.length() > 0) {
        words.add(word.toString());
        word.setLength(0);
      }
      if (letter) {
        word.append(Character.toLowerCase(c));
      }
    }
    if (word.length() > 0) {
      words.add(word.toString());
    }
    return words;
  }

  private static Set<String> words(String listed) {
    return Set.of(listed.strip().split("\\s+"));
  }

  private static String plain(String name) {
    StringBuilder out = new StringBuilder(name.length());
    for (int i = 0; i < name.length(); i++) {
      char c = name.charAt(i);
      if (Character.isLetterOrDigit(c)) {
        out.append(Character.toLowerCase(c));
      }
    }
    return out.toString();
  }
}
