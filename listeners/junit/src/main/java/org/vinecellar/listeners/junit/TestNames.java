package org.vinecellar.listeners.junit;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Deque;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.junit.platform.engine.TestSource;
import org.junit.platform.engine.support.descriptor.ClassSource;
import org.junit.platform.engine.support.descriptor.MethodSource;
import org.junit.platform.launcher.TestIdentifier;
import org.junit.platform.launcher.TestPlan;

/**
 * What a test is called: a class by its full name, a method by its own, and the calls of one method
 * with other arguments by these. Engines are no suites.
 */
record TestNames(List<String> suite, String test, @Nullable String parameters) {
  static TestNames of(TestPlan plan, TestIdentifier test) {
    TestIdentifier parent = plan.getParent(test).orElse(null);
    if (parent != null && isMethod(parent)) {
      String arguments = test.getDisplayName().replaceFirst("^\\[\\d+\\] ?", "");
      return new TestNames(
          suite(plan, parent),
          plain(parent.getLegacyReportingName()),
          arguments.isEmpty() ? test.getDisplayName() : arguments);
    }
    return new TestNames(suite(plan, test), plain(test.getLegacyReportingName()), null);
  }

  /** The suites around a test, or those up to and with a container. */
  static List<String> suite(TestPlan plan, TestIdentifier of) {
    Deque<String> names = new ArrayDeque<>();
    Optional<TestIdentifier> at =
        of.isContainer() && !isMethod(of) ? Optional.of(of) : plan.getParent(of);
    while (at.isPresent() && plan.getParent(at.get()).isPresent()) {
      TestIdentifier container = at.get();
      TestSource source = container.getSource().orElse(null);
      if (source instanceof ClassSource named) {
        names.push(named.getClassName());
        break;
      }
      if (!isMethod(container)) {
        names.push(container.getDisplayName());
      }
      at = plan.getParent(container);
    }
    return new ArrayList<>(names);
  }

  private static boolean isMethod(TestIdentifier test) {
    return test.getSource().orElse(null) instanceof MethodSource;
  }

  private static String plain(String name) {
    return name.endsWith("()") ? name.substring(0, name.length() - 2) : name;
  }
}
