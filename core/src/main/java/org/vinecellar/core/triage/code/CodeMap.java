package org.vinecellar.core.triage.code;

import java.util.Collection;
import java.util.HashSet;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Set;
import java.util.concurrent.ConcurrentHashMap;
import java.util.regex.Pattern;
import org.vinecellar.core.triage.reading.Frame;

/** Whose code frames are, as the tests of a run and the settings of a project tell. Thread-safe. */
public final class CodeMap {
  /** Whose code a frame is. */
  public enum Role {
    /** Of the product. */
    OURS,
    /** Of a test, or of what tests share. */
    TEST,
    /** Of the product, but called for what has nothing to do with its own purpose. */
    HELPER,
    /** Of a library, framework or runtime. */
    LIBRARY,
    /** Perhaps ours: no name that is known, but not under the roots of the tests either. */
    UNKNOWN
  }

  private static final Pattern TEST_OWNER =
      Pattern.compile(
          "(?:Test[A-Z_].*|(?:UT|TEST)_.*|.*(?:_TESTS?|-TESTS?|TESTS|Tests?|TestCase|Specs?|IT|ITCase|Steps|StepDefs|StepDefinitions|Suite|Scenario|Scenarios|Fixture|PageObject|TestBase|TestSupport|TestHelper|TestUtils?|TestData)|[a-z]\\w*(?:_test|_spec|_tests|_steps)|test_\\w+|conftest)(?:\\$.*)?");

  private static final Pattern TEST_PATH =
      Pattern.compile(
          "(?:^|[/\\\\])(?:tests?|__tests__|specs?|e2e|step_definitions|steps|src/test|androidTest|testing|page-objects|page_objects|pageobjects|cypress)[/\\\\]"
              + "|[._-](?:test|spec|cy|e2e)\\.[a-z]{1,4}$|_(?:test|spec|tests|steps)\\.\\w{1,5}$|(?:^|[/\\\\])(?:test|spec)_[^/\\\\]*$|(?:^|[/\\\\])conftest\\.py$|(?:Tests?|Spec|Steps)\\.\\w{1,6}$|\\.[Tt]ests\\.ps1$|\\.(?:bats|t|rakutest|feature)$|(?:^|[/\\\\])test-[^/\\\\]*\\.R$|(?:^|[/\\\\])tests?\\.\\w{1,4}$");

  /** As .NET and PHP call them. */
  private static final Pattern TEST_NAMESPACE =
      Pattern.compile("(?:^|[.\\\\])(?:[A-Z]\\w*)?Tests?[.\\\\]");

  /** Directories of tests, where they are not those of a product's source. */
  private static final Pattern TEST_DIRECTORY =
      Pattern.compile("(?:^|[/\\\\])(?:features|it|integration|unit|pages|screens)[/\\\\]");

  private static final Pattern SOURCE_DIRECTORY =
      Pattern.compile("(?:^|[/\\\\])(?:src|lib|dist|packages|components)[/\\\\]");

  /** A page or screen is one of a product, unless it stands with tests. */
  private static final Pattern PAGE_OF_TESTS =
      Pattern.compile(
          "(?i)(?:^|\\.)(?:pages?|page_?objects?|screens?|robots?|e2e|ui_?tests?|tests?|acceptance|steps?)\\.(?:.*\\.)?\\w+(?:Page|Screen|Robot|Panel|Dialog|Component)\\b");

  /** So many places are remembered. */
  private static final int MOST = 20_000;

  private final Map<Frame, Role> roles = new ConcurrentHashMap<>();

  /** So many classes of tests are remembered. */
  private static final int MOST_TESTS = 20_000;

  private final Set<String> roots;
  private final Set<String> tests;
  private final CodeSettings settings;

  private CodeMap(Set<String> roots, Set<String> tests, CodeSettings settings) {
    this.roots = Set.copyOf(roots);
    this.tests = Set.copyOf(tests);
    this.settings = settings;
  }

  /**
   * @param testClasses names of classes or suites of a run's tests; those with dots tell packages
   */
  public static CodeMap of(Collection<String> testClasses, CodeSettings settings) {
    Set<String> roots = new HashSet<>();
    Set<String> tests = new HashSet<>();
    for (String name : testClasses) {
      if (tests.size() < MOST_TESTS && isClass(name)) {
        tests.add(name);
      }
      String root = root(name);
      if (!root.isEmpty() && roots.size() < 200) {
        roots.add(root);
      }
    }
    return new CodeMap(roots, tests, settings);
  }

  /** Whether it may be a class in a package; a class that stands alone may be what is tested. */
  private static boolean isClass(String name) {
    int last = Math.max(name.lastIndexOf('.'), name.lastIndexOf('\\'));
    return last > 0
        && last < name.length() - 1
        && name.length() < 500
        && name.indexOf(' ') < 0
        && name.indexOf('/') < 0;
  }

  /** Whether it is in a class that the run has tests of. */
  private boolean isOfTests(Frame frame) {
    String name = frame.qualified();
    int end = Math.max(name.lastIndexOf('.'), name.lastIndexOf("::"));
    int inner = name.indexOf('$');
    int cut = inner > 0 && inner < end ? inner : end;
    return cut > 0 && !tests.isEmpty() && tests.contains(name.substring(0, cut));
  }

  /** The first two parts of a package, of a class that stands in one. */
  private static String root(String name) {
    if (name.length() > 500 || name.indexOf(' ') >= 0 || name.indexOf('/') >= 0) {
      return "";
    }
    char separator = name.indexOf('\\') > 0 ? '\\' : '.';
    int one = name.indexOf(separator);
    if (one <= 0) {
      return "";
    }
    int two = name.indexOf(separator, one + 1);
    return two < 0 ? name.substring(0, one + 1) : name.substring(0, two + 1);
  }

  /** Whose code a frame is, whatever its line. */
  public Role role(Frame frame) {
    Frame code = frame.anyLine();
    Role known = roles.get(code);
    if (known == null) {
      known = find(code);
      if (roles.size() < MOST) {
        roles.put(code, known);
      }
    }
    return known;
  }

  private Role find(Frame frame) {
    if (isOfTests(frame)) {
      return Role.TEST;
    }
    for (String own : settings.own()) {
      if (frame.qualified().startsWith(own)
          || (own.indexOf('/') >= 0 && frame.path().contains(own))) {
        return test(frame) ? Role.TEST : helper(frame) ? Role.HELPER : Role.OURS;
      }
    }
    boolean rooted = isRooted(frame);
    if (!rooted && Libraries.isOne(frame)) {
      return Role.LIBRARY;
    }
    if (test(frame)) {
      return Role.TEST;
    }
    if (helper(frame)) {
      return Role.HELPER;
    }
    boolean packaged = isPackaged(frame);
    return packaged && !rooted && !roots.isEmpty() ? Role.UNKNOWN : Role.OURS;
  }

  private boolean helper(Frame frame) {
    for (String part : settings.helpers()) {
      if (frame.qualified().contains(part) || frame.path().contains(part)) {
        return true;
      }
    }
    return HelperNames.isOne(frame);
  }

  private boolean isRooted(Frame frame) {
    String name = frame.qualified();
    for (String root : roots) {
      if (name.startsWith(root)) {
        return true;
      }
    }
    return false;
  }

  /** Whether it has a package as the JVM, .NET and PHP have them. */
  private static boolean isPackaged(Frame frame) {
    String name = frame.qualified();
    String path = frame.path().toLowerCase(Locale.ROOT);
    boolean known =
        List.of(".java", ".kt", ".scala", ".groovy", ".cs", ".php", ".vb", ".fs").stream()
                .anyMatch(path::endsWith)
            || path.isEmpty();
    if (name.indexOf('\\') > 0) {
      return known;
    }
    int dot = name.indexOf('.');
    return known && dot > 0 && name.indexOf('.', dot + 1) > 0;
  }

  private static boolean test(Frame frame) {
    return (!frame.owner().isEmpty() && TEST_OWNER.matcher(outer(frame)).matches())
        || PAGE_OF_TESTS.matcher(frame.qualified()).find()
        || frame.qualified().startsWith("test.")
        || TEST_NAMESPACE.matcher(frame.qualified()).find()
        || (!frame.path().isEmpty()
            && (TEST_PATH.matcher(frame.path()).find()
                || TEST_DIRECTORY.matcher(frame.path()).find()
                    && !SOURCE_DIRECTORY.matcher(frame.path()).find()));
  }

  private static String outer(Frame frame) {
    int dollar = frame.owner().indexOf('$');
    return dollar > 0 ? frame.owner().substring(0, dollar) : frame.owner();
  }
}
