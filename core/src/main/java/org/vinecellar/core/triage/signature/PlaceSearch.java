package org.vinecellar.core.triage.signature;

import java.util.List;
import java.util.Locale;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.triage.code.CodeMap;
import org.vinecellar.core.triage.reading.Chain;
import org.vinecellar.core.triage.reading.CodeNames;
import org.vinecellar.core.triage.reading.Frame;
import org.vinecellar.core.triage.reading.Thrown;

/** Looks for the place that is to blame: the innermost of the product below helpers. */
final class PlaceSearch {
  private static final Pattern CHECKS =
      Pattern.compile(
          "(?i)(?:to(?:be|equal|match|have|contain|throw)|expect|assert|should|verify|check|fail|must|require|run|call|test|it|invoke|execute)\\w*");

  /** Where such a name goes on, it may tell what is checked. */
  private static final Pattern NAMED_CHECKS =
      Pattern.compile("^(?i:expect|assert|should|verify|check|must|require)(?=[A-Z_])");

  private static final Pattern WORD_END = Pattern.compile("_+|\\d+|(?<=[a-z])(?=[A-Z])");

  /** Words of functions that check anything. */
  private static final Set<String> OF_CHECKS =
      Set.of(
          """
          expect expects expected assert asserts should verify verifies check checks fail fails must
          require requires run runs call calls test tests invoke execute equal equals same match
          matches contain contains throw throws thrown raise raises that true false null none nil
          not has have having value values result results status code response type instance text
          near close almost list json error errors exception empty length size count condition all
          each any exact exactly deep strict with eventually soon within object string number
          date array map present visible exist exists like between greater less than item items
          are and for the page element statement step case method function block actual snapshot
          until wait become becomes defined undefined resolve resolves reject rejects success
          called times one two now"""
              .split("\\s+"));

  private static final Pattern CHECKED =
      Pattern.compile(
          "(?i)assert|expect|require|\\bcheck|comparison|mismatch|test_case|\\bFAILED\\b");

  /** Who reads and writes for others. */
  private static final Pattern ACCESS =
      Pattern.compile("(?i)(?:repository|repositories|repo|dao|store|mapper|records?)$");

  private static final Pattern SCRIPT = Pattern.compile("\\.[cm]?[jt]sx?$");

  private final Chain chain;
  private final TestId test;
  private final CodeMap code;
  private final boolean contended;
  private @Nullable Frame ours;
  private @Nullable Frame shared;

  private PlaceSearch(Chain chain, TestId test, CodeMap code, boolean contended) {
    this.contended = contended;
    this.chain = chain;
    this.test = test;
    this.code = code;
  }

  /**
   * @param ours a place of the product; null when there is none
   * @param shared what several tests call, and in which a check failed; null when there is none
   */
  record Found(@Nullable Frame ours, @Nullable Frame shared) {}

  /**
   * @param contended whether somebody else held what was wanted: what accesses it is not to blame
   */
  static Found in(Chain chain, TestId test, CodeMap code, boolean contended) {
    return new PlaceSearch(chain, test, code, contended).search();
  }

  /** The innermost places: of the product, and of what tests share. */
  private Found search() {
    List<Thrown> errors = chain.errors();
    for (int i = errors.size() - 1; i >= 0; i--) {
      if (scan(errors.get(i))) {
        return new Found(ours, shared);
      }
    }
    for (Thrown section : chain.beside()) {
      if (scan(section)) {
        break;
      }
    }
    return new Found(ours, shared);
  }

  /** Whether the frames told whose code it was. */
  private boolean scan(Thrown thrown) {
    List<Frame> frames = thrown.frames();
    Frame unknown = null;
    Frame before = null;
    for (int i = 0; i < frames.size(); i++) {
      Frame frame = trusted(frames.get(i), before);
      boolean ofEnum = before != null && before.qualified().endsWith("java.lang.Enum.valueOf");
      before = frames.get(i);
      if (ofEnum && before.function().equals("valueOf")) {
        // Compilers make it.
        continue;
      }
      if (isBuiltIn(before, i + 1 < frames.size() ? frames.get(i + 1) : null)
          || isOfItself(frame, thrown)) {
        continue;
      }
      switch (code.role(frame)) {
        case OURS -> {
          if (frame.function().isEmpty() && i == frames.size() - 1 && isCheck()) {
            // All that is told is where the check stands.
            return true;
          }
          if (frame.function().isEmpty() && isFileOfTest(frame)) {
            return true;
          }
          if (frame.function().isEmpty() && isWithinNamed(frame, frames, i + 1)) {
            continue;
          }
          ours = frame;
          if (contended && ACCESS.matcher(frame.place()).find() && isCalledByOurs(frames, i + 1)) {
            continue;
          }
          return true;
        }
        case UNKNOWN -> unknown = unknown == null ? frame : unknown;
        case TEST -> {
          if (unknown != null) {
            ours = unknown;
            return true;
          }
          if (!isOwn(frame) && !isMaking(frame.function()) && !isAnyCheck(frame.function())) {
            shared = frame;
          }
          return true;
        }
        case HELPER, LIBRARY -> {
          // says nothing of the cause
        }
      }
    }
    if (unknown != null) {
      ours = unknown;
    }
    return unknown != null;
  }

  /** Whether a function checks whatever it is given, and its name tells of nothing else. */
  private static boolean isAnyCheck(String function) {
    if (!CHECKS.matcher(function).matches()) {
      return false;
    }
    if (!NAMED_CHECKS.matcher(function).find()) {
      return true;
    }
    for (String word : WORD_END.split(function)) {
      if (word.length() > 2 && !OF_CHECKS.contains(word.toLowerCase(Locale.ROOT))) {
        return false;
      }
    }
    return true;
  }

  private boolean isCalledByOurs(List<Frame> frames, int from) {
    return frames.subList(from, frames.size()).stream()
        .anyMatch(frame -> code.role(frame) == CodeMap.Role.OURS);
  }

  /** In its constructor, a class of tests says all that its tests do; without a name it is none. */
  private static boolean isMaking(String function) {
    return function.isEmpty()
        || function.equals("<init>")
        || function.equals("<clinit>")
        || CodeNames.plain(function).equals("new");
  }

  /** A function without a name, given to a library by one that has a name, or called by it. */
  private boolean isWithinNamed(Frame frame, List<Frame> frames, int from) {
    for (int i = from; i < frames.size(); i++) {
      Frame next = frames.get(i);
      if (next.path().equals(frame.path()) && !next.function().isEmpty()) {
        return true;
      }
      if (code.role(next) != CodeMap.Role.LIBRARY) {
        return false;
      }
    }
    return false;
  }

  /**
   * Ruby prints its own methods with the place that called them; an operator is no place of ours.
   */
  private boolean isBuiltIn(Frame frame, @Nullable Frame next) {
    String name = frame.function().isEmpty() ? frame.qualified() : frame.function();
    boolean operator = !name.isEmpty() && !hasLetterOrDigit(name);
    boolean same =
        next != null
            && frame.line() > 0
            && frame.line() == next.line()
            && frame.path().equals(next.path())
            && frame.path().endsWith(".rb");
    return operator || (next != null && same && !next.function().isEmpty());
  }

  private static boolean hasLetterOrDigit(String name) {
    for (int i = 0; i < name.length(); i++) {
      if (Character.isLetterOrDigit(name.charAt(i))) {
        return true;
      }
    }
    return false;
  }

  /** Whether the error makes itself there. */
  private static boolean isOfItself(Frame frame, Thrown thrown) {
    return !frame.owner().isEmpty() && frame.owner().equals(thrown.simpleType());
  }

  /** Whether a check of a test failed, and nothing was thrown elsewhere. */
  private boolean isCheck() {
    return CHECKED.matcher(chain.root().type()).find()
        || chain.root().type().isEmpty() && CHECKED.matcher(head(chain.text())).find();
  }

  /** A source map may call a place by what is called there: then only its file is known. */
  private Frame trusted(Frame frame, @Nullable Frame before) {
    boolean called =
        before != null
            && !frame.function().isEmpty()
            && frame.function().equals(before.function())
            && !frame.path().equals(before.path());
    return called && SCRIPT.matcher(frame.path()).find()
        ? Frame.of("", frame.path(), frame.line())
        : frame;
  }

  /** Whether it is the class or file of the test itself. */
  private boolean isOwn(Frame frame) {
    String place = frame.place();
    int dollar = place.indexOf('$');
    String outer = dollar > 0 ? place.substring(0, dollar) : place;
    String where = CodeNames.plain(test.suite().toString() + " " + test.name());
    return outer.isEmpty()
        || where.contains(outer)
        || outer.length() > 6
            && (outer.startsWith("ut") && where.contains(outer.substring(2))
                || outer.startsWith("test") && where.contains(outer.substring(4)))
        || CodeNames.plain(frame.fileStem()).length() > 3
            && where.contains(CodeNames.plain(frame.fileStem()));
  }

  /** Whether the test is called after the very file. */
  private boolean isFileOfTest(Frame frame) {
    String path = frame.path();
    String file = path.substring(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1);
    return file.indexOf('.') > 0 && test.suite().name().endsWith(file);
  }

  private static String head(String text) {
    return text.length() > 6_000 ? text.substring(0, 6_000) : text;
  }
}
