package org.vinecellar.core.triage.code;

import java.util.Locale;
import java.util.regex.Pattern;
import org.vinecellar.core.triage.reading.Frame;

/**
 * Code that many others call for what has nothing to do with its own purpose: guards, unwrapping,
 * retries, access to a component. That cannot be learned from how many call it: a fare table has
 * many callers too. Names tell.
 */
final class HelperNames {
  private static final Pattern OWNER =
      Pattern.compile(
          "(?:.*(?:utils?|utilities|helpers?|guards?|preconditions?|invariants?|supports?|commons?|retries|retrier|retryer|retrying|retrypolicy|wrappers?|unwrapper|asserts?|assertions?|assertor|validators?|checks|checker|ensures?|requires?|optionals?|maybe|results|futures?|promises|asyncs?|awaits?|awaiter|concurrency|executors?|threading|proxies|interceptor|decorator|aspect|middleware|dispatcher|delegate|adapter))"
              + "|(?:guard|guards|ensure|require|check|checks|contract|contracts|verify|validate|retry|either|option|objects|strings|lists|maps|collections|json|jsons|xml|dates|clock|clocks|money?parse|io|files|must|expect|try|safe|unsafe|invoke|invoker|lazy|memo|memoize|cached?)"
              + "|(?:(?:http|https|rest|api|json|web|rpc|grpc|graphql|soap|tcp|socket|db|sql|jdbc|orm|pg|postgres|postgresql|mysql|mongo|redis|cache|kafka|amqp|rabbit|rabbitmq|queue|broker|mq|event|s3|blob|bucket|object|storage|ldap|smtp|mail|ftp|sftp|data|database|datasource|remote|network|net|service|search|elastic|message|messaging|topic|stream)"
              + "(?:client|gateway|access|accessor|session|template|pool|connection|connector|executor|driver|caller|transport|channel|facade|bus|manager|layer|factory|provider|runner|invoker|base|call|call?er|fetcher|requests?|wrapper|context|source|handle|link|port))"
              + "|.*(?:httpclient|restclient|apiclient|jdbctemplate|sqlsession|connectionpool|transactionmanager|transactiontemplate|unitofwork|entitymanager|dbcontext)"
              + "|(?:abstract|base|generic)(?:client|repository|dao|service|test|gateway|handler)");

  private static final Pattern FUNCTION =
      Pattern.compile(
          "(?:must|ensure|require|requires|assert|check|verify|guard|expect|unwrap|invariant|precondition|validate)(?:that|is|not|non|or|throw|fail|null|none|nil|empty|present|some|ok|state|argument|arg|index|type|valid|value|positive|negative|found|exists|true|false|element|length|range)*"
              + "|(?:or)?(?:else)?(?:throw|fail|raise)|(?:get|fetch|load|find)?(?:orelse|or)(?:throw|fail|raise)|getorthrow|valueorthrow|orelsethrow|not(?:null|none|nil|empty)|non(?:null|none|nil|empty)|bang"
              + "|(?:with|do|run|execute|call)?(?:in)?(?:retry|retries|retrying|transaction|timeout|lock|session|connection|backoff|deadline)|withretry|withretries|retryuntil|intransaction|transact|await|awaitall|block|blocking|runblocking"
              + "|(?:do|send|make|perform)?(?:http)?request|fetchjson|getjson|postjson|httpget|httppost|dorequest|parsejson|readjson|tojson|fromjson|rethrow|reraise|wrap|unwraporelse|propagate|sneakythrow");

  private static final Pattern PACKAGE =
      Pattern.compile(
          "(?:^|[./\\\\:])(?:utils?|commons?|helpers?|supports?|guards?|shared|infra|infrastructure|plumbing|toolbox|toolkit|foundation|libs)(?:$|[./\\\\:])");

  private HelperNames() {}

  static boolean isOne(Frame frame) {
    String owner = plain(frame.owner());
    String stem = plain(frame.fileStem());
    String function = plain(frame.function());
    if (!function.isEmpty() && FUNCTION.matcher(function).matches()) {
      return true;
    }
    if (!owner.isEmpty() && OWNER.matcher(owner).matches()) {
      return true;
    }
    if (!stem.isEmpty()
        && (owner.isEmpty() || !stem.equals(owner))
        && OWNER.matcher(stem).matches()) {
      return true;
    }
    String where =
        frame.path().isEmpty() || isJvm(frame.path())
            ? packageOf(frame.qualified())
            : directory(frame.path());
    return PACKAGE.matcher(where.toLowerCase(Locale.ROOT)).find();
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
