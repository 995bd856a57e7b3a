package org.vinecellar.core.quarantine.runners;

import java.util.ArrayList;
import java.util.Arrays;
import java.util.Collection;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Pattern;
import java.util.stream.Collectors;

/**
 * Those who run tests, and how they are told which. A test is told only when nothing else is meant
 * by its name: what is left out of a run by mistake would be green for no reason.
 *
 * <p>As their own documentation says: Maven Surefire “test”, Gradle “--tests”, pytest “--deselect”
 * and node IDs, go “-run” and “-skip” (1.20), dotnet “--filter”, GoogleTest “--gtest_filter”,
 * libtest “--skip --exact”, Jest and Vitest “--testNamePattern”, Playwright and Mocha “--grep”,
 * CTest “-R” and “-E”, RSpec “--example-matches”, PHPUnit “--filter”.
 */
public enum Runner {
  MAVEN {
    @Override
    Told told(NamedTest test, boolean only) {
      return method(test, only, "#");
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of(
          "-Dtest=" + names.stream().map(n -> only ? n : "!" + n).collect(Collectors.joining(",")),
          "-Dsurefire.failIfNoSpecifiedTests=false");
    }
  },
  GRADLE {
    @Override
    Told told(NamedTest test, boolean only) {
      return only
          ? method(test, true, ".")
          : Told.left(
              "Gradle has no argument to leave a test out; use --only, in a try of its own");
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return each("--tests", names);
    }
  },
  PYTEST {
    @Override
    Told told(NamedTest test, boolean only) {
      return NodeId.of(test).map(Told::as).orElse(Told.left("its file is not known"));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return only ? List.copyOf(names) : names.stream().map(n -> "--deselect=" + n).toList();
    }
  },
  GO {
    @Override
    Told told(NamedTest test, boolean only) {
      // Around a subtest stand the tests that it is one of, and around them the package.
      List<String> suite = test.test().suite();
      List<String> levels = new ArrayList<>(suite.subList(Math.min(1, suite.size()), suite.size()));
      levels.addAll(List.of(test.whole().split("/", -1)));
      return Told.as(
          levels.stream()
              .map(level -> "^" + Quoted.re2(level) + "$")
              .collect(Collectors.joining("/")));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of((only ? "-run=" : "-skip=") + String.join("|", names));
    }
  },
  DOTNET {
    @Override
    Told told(NamedTest test, boolean only) {
      return method(test, only, ".");
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of(
          "--filter",
          names.stream()
              .map(n -> "FullyQualifiedName" + (only ? "=" : "!=") + n)
              .collect(Collectors.joining(only ? "|" : "&")));
    }
  },
  GTEST {
    @Override
    Told told(NamedTest test, boolean only) {
      String name = test.suite() + "." + test.whole();
      return PLAIN_GTEST.matcher(name).matches() ? Told.as(name) : NOT_PLAIN;
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of("--gtest_filter=" + (only ? "" : "-") + String.join(":", names));
    }
  },
  CARGO {
    @Override
    Told told(NamedTest test, boolean only) {
      return PLAIN_RUST.matcher(test.whole()).matches() ? Told.as(test.whole()) : NOT_PLAIN;
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      List<String> words = new ArrayList<>(List.of("--exact"));
      words.addAll(only ? names : each("--skip", names));
      return words;
    }
  },
  JEST {
    @Override
    Told told(NamedTest test, boolean only) {
      return Told.as(Quoted.regex(FullTitle.of(test, " ")));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of("--testNamePattern=" + pattern(names, only));
    }
  },
  VITEST {
    @Override
    Told told(NamedTest test, boolean only) {
      return Told.as(Quoted.regex(FullTitle.of(test, " > ")));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of("--testNamePattern=" + pattern(names, only));
    }
  },
  PLAYWRIGHT {
    @Override
    Told told(NamedTest test, boolean only) {
      return Told.as(Quoted.regex(FullTitle.of(test, " › ")));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of(
          (only ? "--grep=" : "--grep-invert=")
              + "(?:^|\\s)(?:"
              + String.join("|", names)
              + ")(?=$|\\s@)");
    }
  },
  MOCHA {
    @Override
    Told told(NamedTest test, boolean only) {
      return Told.as(Quoted.regex(FullTitle.ofInnermost(test)));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      String grep = "--grep=^(?:" + String.join("|", names) + ")$";
      return only ? List.of(grep) : List.of(grep, "--invert");
    }
  },
  CTEST {
    @Override
    Told told(NamedTest test, boolean only) {
      return Told.as(Quoted.regex(test.whole()));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of(only ? "-R" : "-E", "^(" + String.join("|", names) + ")$");
    }
  },
  RSPEC {
    @Override
    Told told(NamedTest test, boolean only) {
      return Told.as(Quoted.regex(FullTitle.ofInnermost(test)));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of("--example-matches", pattern(names, only));
    }
  },
  PHPUNIT {
    @Override
    Told told(NamedTest test, boolean only) {
      return Told.as(Quoted.regex(test.suite() + "::" + test.whole()).replace("/", "\\/"));
    }

    @Override
    List<String> words(Collection<String> names, boolean only) {
      return List.of("--filter", "/" + pattern(names, only) + "/");
    }
  };

  private static final Pattern PLAIN_METHOD =
      Pattern.compile("[\\p{L}_$][\\p{L}\\p{N}_$]*(?:[.+][\\p{L}_$][\\p{L}\\p{N}_$]*)*");
  private static final Pattern PLAIN_NAME = Pattern.compile("[\\p{L}_$][\\p{L}\\p{N}_$]*");
  private static final Pattern PLAIN_GTEST = Pattern.compile("[A-Za-z0-9_/]+\\.[A-Za-z0-9_/]+");
  private static final Pattern PLAIN_RUST =
      Pattern.compile("[A-Za-z_][A-Za-z0-9_]*(?:::[A-Za-z0-9_]+)*");

  private static final Told NOT_PLAIN =
      Told.left("its name means more than one test to this runner");

  /** The word for it, e.g. {@code maven}. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** Empty when there is no such runner. */
  public static Optional<Runner> of(String word) {
    return Arrays.stream(values()).filter(one -> one.word().equals(word)).findFirst();
  }

  /**
   * Arguments to leave tests out.
   *
   * @param only to run just these in place of that
   */
  public Arguments arguments(Collection<NamedTest> tests, boolean only) {
    Set<String> names = new LinkedHashSet<>();
    List<Arguments.Left> left = new ArrayList<>();
    for (NamedTest test : tests) {
      Told told =
          isUnseen(test)
              ? Told.left("its name has characters that are not seen")
              : told(test, only);
      if (told.isName()) {
        names.add(told.text());
      } else {
        left.add(new Arguments.Left(test, told.text()));
      }
    }
    return new Arguments(names.isEmpty() ? List.of() : words(names, only), left);
  }

  private static boolean isUnseen(NamedTest test) {
    return (test.suite() + test.whole())
        .codePoints()
        .anyMatch(c -> Character.isISOControl(c) || Character.getType(c) == Character.FORMAT);
  }

  /**
   * How it is called there.
   *
   * @param text the name; when it is none, why it cannot be told
   */
  record Told(boolean isName, String text) {
    static Told as(String name) {
      return new Told(true, name);
    }

    static Told left(String why) {
      return new Told(false, why);
    }
  }

  abstract Told told(NamedTest test, boolean only);

  abstract List<String> words(Collection<String> names, boolean only);

  private static Told method(NamedTest test, boolean only, String between) {
    if (!PLAIN_METHOD.matcher(test.suite()).matches()
        || !PLAIN_NAME.matcher(test.name()).matches()) {
      return NOT_PLAIN;
    }
    if (test.test().parameters() != null && !only) {
      return Told.left("it cannot be left out without the same test with other parameters");
    }
    return Told.as(test.suite() + between + test.name());
  }

  private static List<String> each(String option, Collection<String> names) {
    return names.stream().flatMap(name -> List.of(option, name).stream()).toList();
  }

  private static String pattern(Collection<String> names, boolean only) {
    return (only ? "^(?:" : "^(?!(?:") + String.join("|", names) + (only ? ")$" : ")$)");
  }
}
