package org.vinecellar.core.formats.testng;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.xml.TextReader;
import org.vinecellar.core.results.Key128;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;

/** The grammar of one file, by descent: suites, tests, classes, methods. */
final class TestNgParser {
  /** What launchers call a test that nobody named; such a name tells nothing. */
  private static final Set<String> UNNAMED =
      Set.of("Surefire test", "Command line test", "Default test", "Gradle test");

  private static final int MAX_GROUPED = 200_000;

  /** Of one method; many more than anybody reads. */
  private static final int MAX_GROUPS = 100;

  private final XMLStreamReader2 xml;
  private final TextReader texts;
  private final ReadLimits limits;
  private final CaseHandler handler;
  private final MethodParser methods;
  private final Map<String, List<String>> groups = new HashMap<>();
  private final Set<Key128> triedAgain = new HashSet<>();
  private int count;

  TestNgParser(
      XMLStreamReader2 xml,
      TextReader texts,
      ReadLimits limits,
      CaseHandler handler,
      Problems problems) {
    this.xml = xml;
    this.texts = texts;
    this.limits = limits;
    this.handler = handler;
    this.methods = new MethodParser(xml, texts, limits, problems);
  }

  void root() throws XMLStreamException {
    while (texts.nextChild()) {
      if (xml.getLocalName().equals("suite")) {
        suite();
      } else {
        texts.skip();
      }
    }
  }

  private void suite() throws XMLStreamException {
    groups.clear();
    while (texts.nextChild()) {
      switch (xml.getLocalName()) {
        case "groups" -> groups();
        case "test" -> test();
        default -> texts.skip();
      }
    }
  }

  /** Groups list their methods; a method's groups are told before it comes. */
  private void groups() throws XMLStreamException {
    while (texts.nextChild()) {
      String group = texts.name("name");
      while (texts.nextChild()) {
        String key = key(texts.name("class"), texts.name("name"));
        if (group != null && (groups.size() < MAX_GROUPED || groups.containsKey(key))) {
          List<String> known = groups.computeIfAbsent(key, k -> new ArrayList<>(1));
          if (known.size() < MAX_GROUPS) {
            known.add(group);
          }
        }
        texts.skip();
      }
    }
  }

  private static String key(@Nullable String className, @Nullable String method) {
    return className + "#" + method;
  }

  private void test() throws XMLStreamException {
    String name = texts.name("name");
    boolean named = name != null && !name.isBlank() && !UNNAMED.contains(name);
    SuitePath path = named ? SuitePath.ROOT.child(String.valueOf(name)) : SuitePath.ROOT;
    while (texts.nextChild()) {
      if (xml.getLocalName().equals("class")) {
        classes(path);
      } else {
        texts.skip();
      }
    }
  }

  /** A method is tried again when its last try said so; otherwise it is one more invocation. */
  private Repeat repeat(TestResult result) {
    boolean again = triedAgain.remove(result.test().key());
    if (methods.isTriedAgain() && triedAgain.size() < MAX_GROUPED) {
      triedAgain.add(result.test().key());
    }
    return again ? Repeat.RETRY : Repeat.OTHER;
  }

  private void classes(SuitePath test) throws XMLStreamException {
    String className = texts.name("name");
    SuitePath path = className == null ? test : test.child(className);
    while (texts.nextChild()) {
      if (!xml.getLocalName().equals("test-method")) {
        texts.skip();
        continue;
      }
      if (++count > limits.maxCases()) {
        throw new UnreadableFileException(
            "has more than " + limits.maxCases() + " methods; split it into several files");
      }
      List<String> tags = groups.getOrDefault(key(className, texts.name("name")), List.of());
      TestResult result = methods.read(path);
      if (result != null) {
        handler.onCase(result.tagged(tags), repeat(result));
      }
    }
  }
}
