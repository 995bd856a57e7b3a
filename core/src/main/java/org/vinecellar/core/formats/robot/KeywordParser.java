package org.vinecellar.core.formats.robot;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.TryParts;
import org.vinecellar.core.formats.xml.TextReader;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.Step;

/** Makes steps of keywords and of what controls them: loops, conditions, tries. */
final class KeywordParser {
  private static final int MAX_WORD = 300;
  private static final int MAX_TEXT = 2000;

  /** A keyword that calls itself goes deeper than anybody reads. */
  private static final int DEEPEST = 80;

  private final XMLStreamReader2 xml;
  private final TextReader texts;
  private final Problems problems;
  private int depth;

  KeywordParser(XMLStreamReader2 xml, TextReader texts, Problems problems) {
    this.problems = problems;
    this.xml = xml;
    this.texts = texts;
  }

  /**
   * A keyword with its status.
   *
   * @param kind {@code SETUP}, {@code TEARDOWN} or another word; empty for a plain keyword
   */
  record Keyword(String kind, String name, Status status, @Nullable Step step) {}

  /** Whether an element is a keyword, or controls some. */
  static boolean isKeyword(String element) {
    return switch (element) {
      case "kw",
          "for",
          "while",
          "if",
          "try",
          "branch",
          "iter",
          "group",
          "return",
          "break",
          "continue",
          "error",
          "variable" ->
          true;
      default -> false;
    };
  }

  /** The present element, read to its end. */
  Keyword read(String element, TryParts parts) throws XMLStreamException {
    if (depth == DEEPEST) {
      problems.add("keywords inside more than " + DEEPEST + " others are left out");
      texts.skip();
      return new Keyword("", "", Status.NONE, null);
    }
    depth++;
    String type = word("type").toUpperCase(Locale.ROOT);
    String name = word("name");
    String kind = kind(element, type);
    List<String> before = new ArrayList<>();
    List<String> words = new ArrayList<>();
    List<String> looped = new ArrayList<>();
    add(words, word("condition"));
    String flavor = word("flavor");
    List<LogLine> logs = new ArrayList<>();
    List<Integer> attachments = new ArrayList<>();
    List<Step> steps = new ArrayList<>();
    Status status = Status.NONE;
    while (texts.nextChild()) {
      String child = xml.getLocalName();
      if (isKeyword(child)) {
        Keyword inner = read(child, parts);
        if (inner.step != null) {
          steps.add(inner.step);
        }
        continue;
      }
      switch (child) {
        case "arg", "value", "pattern" -> add(words, texts.text());
        case "arguments" -> all(words);
        case "var" -> {
          String variable = word("name");
          String value = texts.text();
          add(
              element.equals("kw") ? before : looped,
              variable.isEmpty() ? value : variable + " = " + (value == null ? "" : value));
        }
        case "assign" -> all(before);
        case "msg" -> message(parts, logs, attachments);
        case "status" -> status = Status.read(texts);
        default -> texts.skip();
      }
    }
    depth--;
    if (!parts.roomForStep()) {
      return new Keyword(kind, name, status, null);
    }
    String text = text(name, before, looped, flavor, words);
    return new Keyword(
        kind,
        name,
        status,
        new Step(
            kind.isEmpty() ? null : kind,
            text,
            outcome(status),
            null,
            status.micros(),
            null,
            null,
            List.of(),
            logs,
            attachments,
            steps));
  }

  private static String kind(String element, String type) {
    if (!element.equals("kw")) {
      return element.equals("iter")
          ? ""
          : element.equals("branch") ? type : element.toUpperCase(Locale.ROOT);
    }
    return type.equals("KEYWORD") || type.equals("KW") || type.equals("FORITEM") ? "" : type;
  }

  private static String text(
      String name, List<String> before, List<String> looped, String flavor, List<String> words) {
    StringBuilder text = new StringBuilder();
    if (!before.isEmpty()) {
      text.append(String.join(", ", before)).append(" = ");
    }
    text.append(name);
    if (!looped.isEmpty()) {
      text.append(text.isEmpty() ? "" : " ").append(String.join(", ", looped));
    }
    if (!flavor.isEmpty()) {
      text.append(' ').append(flavor);
    }
    for (String word : words) {
      text.append(text.isEmpty() ? "" : "  ").append(word);
    }
    return text.length() <= MAX_TEXT ? text.toString() : text.substring(0, MAX_TEXT) + "…";
  }

  private static Outcome outcome(Status status) {
    return switch (status.word()) {
      case "PASS" -> Outcome.PASSED;
      case "SKIP", "NOT RUN", "NOT_RUN" -> Outcome.SKIPPED;
      default -> Outcome.FAILED;
    };
  }

  private void all(List<String> words) throws XMLStreamException {
    while (texts.nextChild()) {
      add(words, texts.text());
    }
  }

  private static void add(List<String> words, @Nullable String word) {
    if (word != null && !word.isBlank() && words.size() < 50) {
      words.add(word.length() <= MAX_WORD ? word : word.substring(0, MAX_WORD) + "…");
    }
  }

  private String word(String attribute) {
    String value = texts.name(attribute);
    return value == null ? "" : value;
  }

  /** A line that is HTML may show a picture that lies beside the file. */
  private void message(TryParts parts, List<LogLine> logs, List<Integer> attachments)
      throws XMLStreamException {
    String level = texts.name("level");
    Instant time = Status.time(first(texts.name("time"), texts.name("timestamp")));
    boolean html = word("html").equals("true") || word("html").equals("yes");
    String text = texts.text();
    if (text == null) {
      return;
    }
    HtmlMessage message = html ? HtmlMessage.of(text) : new HtmlMessage(text, List.of());
    for (Attachment picture : message.pictures()) {
      int place = parts.attach(picture);
      if (place >= 0) {
        attachments.add(place);
      }
    }
    if (parts.roomForLog()) {
      logs.add(new LogLine(time, level, message.text()));
    }
  }

  private static @Nullable String first(@Nullable String one, @Nullable String other) {
    return one == null ? other : one;
  }
}
