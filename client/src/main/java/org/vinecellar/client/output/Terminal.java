package org.vinecellar.client.output;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.PrintWriter;
import java.util.Locale;
import java.util.Map;
import java.util.function.LongConsumer;

/** Where words go: results to the one side, messages to the other; colour only for people. */
public final class Terminal {
  private static final long PROGRESS_FROM = 4 << 20;

  private final PrintWriter out;
  private final PrintWriter err;
  private final boolean person;
  private final boolean colour;

  /**
   * @param person whether a person sees the output on a terminal
   */
  public Terminal(
      PrintWriter out, PrintWriter err, boolean person, Map<String, String> environment) {
    this.out = out;
    this.err = err;
    this.person = person;
    this.colour =
        person && !environment.containsKey("NO_COLOR") && !"dumb".equals(environment.get("TERM"));
  }

  /** Whether colours are wanted. */
  public boolean colour() {
    return colour;
  }

  /** A line of the result. */
  public void line(String text) {
    out.println(text);
  }

  /** The result for programs, on one line. */
  public void json(JsonNode node) {
    out.println(node);
  }

  /** A message beside the result. */
  public void note(String text) {
    err.println("vine: " + clean(text));
  }

  /** What stopped the command. */
  public void error(String text) {
    err.println(paint("vine: " + clean(text), Paint.CLARET));
  }

  /** Where in the program a failure arose. */
  public void trace(Throwable e) {
    e.printStackTrace(err);
  }

  /** The colours of the outcomes, as near as sixteen colours come. */
  public enum Paint {
    TEAL("36"),
    CLARET("31"),
    ORANGE("33"),
    SLATE("90"),
    BOLD("1");

    private final String code;

    Paint(String code) {
      this.code = code;
    }
  }

  /** The text in a colour, when colours are wanted. */
  public String paint(String text, Paint paint) {
    return colour ? "\u001B[" + paint.code + "m" + text + "\u001B[0m" : text;
  }

  /** Text from outside, without what could steer a terminal. */
  public static String clean(String text) {
    StringBuilder out = new StringBuilder(text.length());
    text.codePoints()
        .forEach(
            c -> {
              boolean steers =
                  Character.isISOControl(c) || Character.getType(c) == Character.FORMAT;
              out.appendCodePoint(steers && c != '\t' ? '\uFFFD' : c);
            });
    return out.toString();
  }

  /** Shows how far a long sending has come; silent for short ones and for programs. */
  public Progress progress(String verb, long total, boolean silent) {
    return new Progress(verb, total, person && !silent && total >= PROGRESS_FROM);
  }

  /** One long sending. */
  public final class Progress implements LongConsumer {
    private final String verb;
    private final long total;
    private final boolean shown;
    private int percent = -1;

    private Progress(String verb, long total, boolean shown) {
      this.verb = verb;
      this.total = total;
      this.shown = shown;
    }

    @Override
    public void accept(long done) {
      int now = (int) Math.min(100, done * 100 / Math.max(1, total));
      if (shown && now != percent) {
        percent = now;
        err.printf(Locale.ROOT, "\r%s %.1f MB  %d %%", verb, total / 1e6, now);
        err.flush();
      }
    }

    /** Wipes the line. */
    public void end() {
      if (shown) {
        err.print("\r\u001B[K");
        err.flush();
      }
    }
  }
}
