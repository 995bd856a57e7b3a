package org.vinecellar.core.triage.signature;

import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.TreeSet;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.triage.checks.CheckedSource;
import org.vinecellar.core.triage.checks.Codes;
import org.vinecellar.core.triage.checks.DataObjects;
import org.vinecellar.core.triage.checks.Request;
import org.vinecellar.core.triage.checks.Subject;
import org.vinecellar.core.triage.checks.Subjects;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.faults.Fault;
import org.vinecellar.core.triage.faults.Faults;
import org.vinecellar.core.triage.faults.Way;
import org.vinecellar.core.triage.reading.Chain;
import org.vinecellar.core.triage.reading.CodeNames;
import org.vinecellar.core.triage.reading.Frame;
import org.vinecellar.core.triage.reading.PlaceMemo;
import org.vinecellar.core.triage.reading.Thrown;
import org.vinecellar.core.triage.reading.TraceReader;

/**
 * Makes the signature of a failure: what it is known by again, decided in the order of how much
 * each thing tells. A pure function; thread-safe.
 */
public final class Signer {

  /** So many words of an error are its own, whatever test says them. */
  private static final int ENOUGH_WORDS = 4;

  private static final int ENOUGH_WITH_NAME = 3;

  /** Names that end so are those of errors, which many programs share. */
  private static final List<String> OF_ERRORS = List.of("error", "exception", "timeout", "failure");

  /** Has no object; the method of ours decides. */
  private static final List<String> CONTENTION =
      List.of(
          "eadlock",
          "40P01",
          "ould not serialize access",
          "OptimisticLock",
          "StaleObject",
          "ost update",
          "oncurrency conflict",
          "DbUpdateConcurrency",
          "row was updated or deleted",
          "WriteConflict",
          "ersion conflict");

  private static final Pattern SERIALIZATION = Pattern.compile("\\b40001\\b");

  private static final List<String> RACE =
      List.of(
          "DATA RACE", "ata race", "ace condition detected", "race detected", "ThreadSanitizer");

  /** What is missing is named, and whoever missed it is not to blame. */
  private static final Set<Subject.Kind> MISSING =
      Set.of(Subject.Kind.FILE, Subject.Kind.BEAN, Subject.Kind.MODULE, Subject.Kind.SETTING);

  private static final Set<Subject.Kind> SEEN =
      Set.of(Subject.Kind.COVER, Subject.Kind.LOCATOR, Subject.Kind.SNAPSHOT);

  /** What runners say of a test that took longer than a test may, and nothing else. */
  private static final Pattern TIME_LIMIT =
      Pattern.compile(
          "(?i)timeout of \\S+ ?(?:ms|s|seconds)? exceeded|exceeded timeout of|test (?:case |method |execution )?timed out|\\(\\) timed out after|(?:didn't|did not) finish within the time-?out|^(?:failed: )?timeout >|exceeded (?:the )?(?:execution time|timeout value|time limit|maximum time)|execution timed out after|longer than (?:its|the) (?:time limit|timeout)|took longer than the timeout|timed out \\(limit");

  /** What is thrown where a test waited when its time was over. */
  private static final Set<String> STUCK =
      Set.of("InterruptedException", "TestTimedOutException", "ThreadInterruptedException");

  private static final Set<String> LANGUAGES =
      Set.of(
          "py", "rb", "php", "go", "ex", "erl", "lua", "dart", "pl", "pm", "hs", "clj", "R", "jl",
          "ml", "erb", "haml", "slim", "vue", "js", "ts", "cjs", "mjs", "cts", "mts", "jsx", "tsx");

  private static final Set<String> SCRIPTS =
      Set.of("vue", "js", "ts", "cjs", "mjs", "cts", "mts", "jsx", "tsx");

  private final CodeMap code;
  private final PlaceMemo places;

  /**
   * @param code whose code frames are
   */
  public Signer(CodeMap code) {
    this(code, new PlaceMemo());
  }

  /**
   * @param code whose code frames are
   * @param places what was read before, in whatever run
   */
  public Signer(CodeMap code, PlaceMemo places) {
    this.code = Objects.requireNonNull(code);
    this.places = Objects.requireNonNull(places);
  }

  /**
   * @param failures of the try that stands, in the order of the file; may be empty
   */
  public Signature sign(TestId test, List<Failure> failures) {
    Failure failure = failures.isEmpty() ? new Failure(null, null, null) : failures.get(0);
    return new One(test, TraceReader.read(failure, places)).signature();
  }

  /** One failure under its reading. */
  private final class One {
    private final TestId test;
    private final Chain chain;
    private final Thrown root;
    private final String text;
    private final String identity;
    private final @Nullable Frame ours;
    private final @Nullable Frame shared;
    private @Nullable Subject named;

    /** Whether all that is told is that the test itself waited. */
    private boolean ownWait;

    private final SaidText words;
    private final String said;

    One(TestId test, Chain chain) {
      this.test = test;
      this.chain = chain;
      this.root = chain.root();
      this.text = chain.text();
      this.identity = test.suite().name() + "#" + test.name();
      this.words = new SaidText(test, root, text);
      this.said = words.text();
      PlaceSearch.Found found = PlaceSearch.in(chain, test, code, isContention());
      this.ours = found.ours();
      this.shared = found.shared();
    }

    /** A fault of a component that is not named, where there may be several of its kind. */
    private static boolean isNameless(KeyKind kind, List<String> asks) {
      return kind == KeyKind.ENVIRONMENT
          && asks.stream().allMatch(ask -> ask.startsWith(Signature.IN_RUN + "re"))
          && !asks.isEmpty();
    }

    private static boolean tellsEnough(List<String> words) {
      long names = words.stream().filter(w -> w.charAt(0) == '`' && !isOfErrors(w)).count();
      return words.size() >= (names > 0 ? ENOUGH_WITH_NAME : ENOUGH_WORDS);
    }

    private static boolean isOfErrors(String name) {
      for (String ending : OF_ERRORS) {
        if (name.endsWith(ending)) {
          return true;
        }
      }
      return false;
    }

    Signature signature() {
      Signature found = environment();
      if (found == null) {
        found = named();
      }
      if (found == null) {
        found = frame();
      }
      if (found == null) {
        found = subject();
      }
      return found == null ? words() : found;
    }

    private @Nullable Signature environment() {
      boolean told = Faults.mayTell(text) || Faults.mayTell(root.type());
      if (!told && !Faults.mayTell(root.message())) {
        return null;
      }
      List<String> clients = new ArrayList<>();
      for (Frame frame : root.frames()) {
        if (code.role(frame) == CodeMap.Role.LIBRARY) {
          clients.add(frame.qualified());
          int modules = frame.path().lastIndexOf("node_modules/");
          if (modules >= 0) {
            clients.add(frame.path().substring(modules));
          }
        }
      }
      Fault fault = Faults.in(root.type() + ": " + root.message(), clients);
      if (fault == null) {
        fault = Faults.in(text, clients);
      } else if (!fault.isNamed() || isOfContainers(fault.way()) && fault.host().isEmpty()) {
        Fault wider = Faults.in(text, clients);
        fault = wider != null && wider.way() == fault.way() && wider.isNamed() ? wider : fault;
      }
      if (fault == null) {
        return null;
      }
      boolean soft =
          fault.way() == Way.GATEWAY
              || fault.way() == Way.GATEWAY_TIMEOUT
              || fault.way() == Way.UNAVAILABLE
              || fault.way() == Way.THROTTLED
              || fault.way() == Way.LOGIN;
      if (soft && Codes.in(text) != null) {
        return null;
      }
      String way = fault.way().code();
      String general = way + "|" + fault.kind();
      if (fault.isNamed()) {
        return made(
            KeyKind.ENVIRONMENT,
            way + "|" + fault.component(),
            List.of("environment " + general, Signature.IN_RUN + way),
            List.of(),
            fault.sentence());
      }
      if (fault.kind().isEmpty()) {
        // What waits for a pool or a certificate is not to blame, and there is mostly but one.
        boolean whole = fault.way() == Way.POOL || fault.way().code().startsWith("certificate");
        String caller =
            ours == null || whole ? "" : ours.place() + "." + CodeNames.plain(ours.function());
        return made(
            KeyKind.ENVIRONMENT,
            general + "|" + caller,
            List.of(),
            List.of(Signature.IN_RUN + way),
            fault.sentence());
      }
      List<String> asks = List.of("environment " + general);
      return made(
          KeyKind.ENVIRONMENT, general, List.of(Signature.IN_RUN + way), asks, fault.sentence());
    }

    private static boolean isOfContainers(Way way) {
      return way == Way.CONTAINERS || way == Way.IMAGE;
    }

    private @Nullable Signature named() {
      named = Subjects.in(text);
      ownWait =
          named != null
              && named.kind() == Subject.Kind.AWAITED
              && test.suite().name().endsWith(named.name());
      if (ownWait
          || named != null
              && named.kind() == Subject.Kind.DESCRIPTION
              && words.isTitle(named.name())) {
        named = null;
      }
      if (!chain.check().isEmpty() && (named == null || named.kind() == Subject.Kind.EXPRESSION)) {
        Subject checked = CheckedSource.in(chain.check());
        named = checked == null ? named : checked;
      }
      boolean contention = isContention();
      String error = Codes.in(text);
      Request request = Request.in(text);
      boolean setting =
          named != null && named.kind() == Subject.Kind.SETTING && named.name().equals(error);
      if (error != null && !contention && !setting) {
        return made(
            KeyKind.CODE,
            error,
            List.of(),
            List.of(),
            "the application answered with the code `" + error + "`");
      }
      Subject object = contention ? null : DataObjects.in(text);
      if (object != null) {
        return made(
            KeyKind.OBJECT,
            object.name(),
            List.of(),
            List.of(),
            "the error names `" + object.name() + "`");
      }
      if (request != null && !request.route().isEmpty() && request.status() >= 400) {
        String method = request.method();
        String key = method + " " + request.route() + "|" + request.status();
        String general = "endpoint " + request.route() + "|" + request.status();
        return made(
            KeyKind.ENDPOINT,
            key,
            List.of(general),
            method.isEmpty() ? List.of(general) : List.of(),
            "`" + (method + " " + request.route()).strip() + "` answered with " + request.status());
      }
      if (request == null) {
        Request unmatched = Request.unmatched(text);
        if (unmatched != null) {
          String asked = (unmatched.method() + " " + unmatched.route()).strip();
          return made(
              KeyKind.ENDPOINT,
              asked + "|unmatched",
              List.of(),
              List.of(),
              "nobody answers `" + asked + "`");
        }
      }
      if (says(RACE)) {
        Signature race = race();
        if (race != null) {
          return race;
        }
      }
      Subject subject = named;
      boolean first =
          subject != null && (MISSING.contains(subject.kind()) || SEEN.contains(subject.kind()));
      return subject != null && first && subject.isTelling() ? subject(subject) : null;
    }

    private boolean isContention() {
      return says(CONTENTION) || text.contains("40001") && SERIALIZATION.matcher(text).find();
    }

    private boolean says(List<String> words) {
      for (String word : words) {
        if (text.contains(word)) {
          return true;
        }
      }
      return false;
    }

    private @Nullable Signature race() {
      TreeSet<String> pair = new TreeSet<>();
      for (Thrown section : chain.beside()) {
        if (pair.size() < 2) {
          for (Frame frame : section.frames()) {
            if (code.role(frame) == CodeMap.Role.OURS) {
              pair.add(frame.place() + "." + CodeNames.plain(frame.function()));
              break;
            }
          }
        }
      }
      if (pair.isEmpty()) {
        return null;
      }
      String name = String.join(" ~ ", pair);
      return made(KeyKind.SUBJECT, "race|" + name, List.of(), List.of(), "`" + name + "` race");
    }

    private @Nullable Signature frame() {
      if (ours == null) {
        return null;
      }
      String type = isContention() ? "contention" : typeOf();
      String function = CodeNames.plain(ours.function());
      String place = ours.place();
      String language = language(ours);
      String sentence =
          "thrown in `"
              + shown(ours)
              + "`"
              + (type.isEmpty() ? "" : " as `" + shownType(type) + "`");
      if (function.isEmpty()) {
        String file = language + place + "|" + type;
        List<String> asks = type.isEmpty() ? List.of() : List.of("frame " + file);
        return made(KeyKind.FRAME, file, List.of(), asks, sentence);
      }
      String at = language + place + "." + function;
      List<String> offers = new ArrayList<>(List.of("frame " + at));
      if (!type.isEmpty()) {
        offers.add("frame " + language + place + "|" + type);
        String file = CodeNames.plain(ours.fileName());
        if (!file.isEmpty() && !file.equals(place)) {
          // Where only the file is told.
          offers.add("frame " + language + file + "|" + type);
        }
      }
      List<String> asks = new ArrayList<>();
      if (type.isEmpty()) {
        asks.add("frame " + at);
      }
      if (language.equals("js:")) {
        // A function is printed with its class, or only with its file, as it was called.
        String stem = CodeNames.plain(ours.fileName());
        if (ours.owner().isEmpty()) {
          asks.add("file " + stem + "." + function + "|" + type);
        } else if (!stem.equals(place)) {
          offers.add("file " + stem + "." + function + "|" + type);
        }
      }
      return made(KeyKind.FRAME, at + "|" + type, offers, asks, sentence);
    }

    private String typeOf() {
      String type = root.simpleType();
      for (int i = chain.errors().size() - 1; i >= 0 && type.isEmpty(); i--) {
        type = chain.errors().get(i).simpleType();
      }
      if (STUCK.contains(type)) {
        return "stuck";
      }
      String low = type.toLowerCase(Locale.ROOT);
      int end = low.length();
      end -= low.endsWith("exception") ? 9 : low.endsWith("error") ? 5 : 0;
      // As languages spell it whose names have marks in them.
      end -= end > 0 && end < low.length() && "_-".indexOf(low.charAt(end - 1)) >= 0 ? 1 : 0;
      return low.substring(0, end);
    }

    /** The type as it was printed, without its package. */
    private String shownType(String type) {
      for (int i = chain.errors().size() - 1; i >= 0; i--) {
        String simple = chain.errors().get(i).simpleType();
        if (!simple.isEmpty()) {
          return simple;
        }
      }
      return type;
    }

    private String shown(Frame frame) {
      String owner = frame.owner().isEmpty() ? frame.fileStem() : frame.owner();
      return frame.function().isEmpty() || owner.isEmpty()
          ? owner + frame.function()
          : owner + "." + frame.function();
    }

    private @Nullable Signature subject() {
      Subject subject = named;
      if (subject != null && subject.isTelling()) {
        return subject(subject);
      }
      if (shared != null) {
        String at = shared.place() + "." + CodeNames.plain(shared.function()) + "|" + typeOf();
        return made(
            KeyKind.SHARED,
            at,
            List.of(),
            List.of(),
            "the check in `" + shown(shared) + "` did not hold");
      }
      if (subject != null) {
        return made(
            KeyKind.TEST,
            identity
                + "|"
                + (subject.kind() == Subject.Kind.EXPRESSION
                    ? "two values differ"
                    : subject.kind().word() + " " + subject.name()),
            List.of(),
            List.of(),
            "in the same test " + subject.sentence());
      }
      return null;
    }

    private Signature subject(Subject subject) {
      String what = subject.kind().word();
      return made(
          KeyKind.SUBJECT, what + "|" + subject.name(), List.of(), List.of(), subject.sentence());
    }

    private Signature words() {
      Collection<String> telling = words.telling();
      String type = typeOf();
      boolean nothing =
          said.isEmpty() || telling.isEmpty() && !SaidText.compares(said) && isShort(said);
      if (nothing && type.isEmpty()) {
        return made(
            KeyKind.TEST,
            identity + "|",
            List.of(),
            List.of(Signature.ofTest(test)),
            "the same test, and nothing else is told");
      }
      boolean stuck = STUCK.contains(root.simpleType()) && TIME_LIMIT.matcher(text).find();
      if (ownWait || stuck || TIME_LIMIT.matcher(said).find()) {
        return made(
            KeyKind.TEST,
            identity + "|time limit",
            List.of(),
            List.of(),
            "the same test takes longer than it may");
      }
      if (telling.size() >= SaidText.TELLING_WORDS) {
        return made(
            KeyKind.TEXT,
            String.join(" ", telling),
            List.of(),
            List.of(),
            "the error says the same");
      }
      return made(
          KeyKind.TEST,
          identity + "|" + (said.isEmpty() ? type : bare(said, telling)),
          List.of(),
          List.of(),
          "the same test says the same");
    }

    /** "Test failed", and no more. */
    private static boolean isShort(String said) {
      return said.length() < 40 && said.indexOf('#') < 0;
    }

    /** However it is printed that two values differ, it is that two values differ. */
    private static String bare(String said, Collection<String> telling) {
      return SaidText.compares(said)
          ? ("two values differ " + String.join(" ", telling)).strip()
          : said;
    }

    private Signature made(
        KeyKind kind, String key, List<String> offers, List<String> asks, String sentence) {
      List<String> all = new ArrayList<>(offers);
      all.removeAll(asks);
      all.add(Signature.ofTest(test));
      List<String> telling = words.telling();
      boolean strong =
          kind == KeyKind.TEXT ? tellsEnough(telling) : kind.isStrong() && !isNameless(kind, asks);
      return new Signature(
          kind, kind.word() + " " + key, all, asks, sentence, telling, said, strong);
    }
  }

  /** Names of one language are no names of another; of some the files are not always told. */
  private static String language(Frame frame) {
    String kind = frame.path().substring(frame.path().lastIndexOf('.') + 1);
    return LANGUAGES.contains(kind) ? (SCRIPTS.contains(kind) ? "js" : kind) + ":" : "";
  }
}
