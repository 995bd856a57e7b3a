package org.vinecellar.bench.grouping;

import java.util.List;
import java.util.Random;

/**
 * What happens to a failure's text on its way: colours, other line ends, a missing type or message,
 * words of what tried again, output with errors that have nothing to do with it, and a cut end.
 * What tells the cause is left.
 */
final class Rough {
  private static final List<String> TRIED =
      List.of("Attempt 3/3 failed: ", "[retry #2] ", "Retry 1 of 1: ", "still failing: ");

  private static final List<String> OUTPUT =
      List.of(
          "----------------------------- Captured stdout call -----------------------------\n",
          "Standard Output Messages:\n",
          "=== Output ===\n",
          "-------------------- >> begin captured logging << --------------------\n");

  private static final List<String> UNRELATED =
      List.of(
          "java.io.IOException: Broken pipe\n\tat org.skerrow.booking.io.Drain.close(Drain.java:44)\n",
          "Traceback (most recent call last):\n  File \"/app/skerrow/noise.py\", line 3, in hum\nValueError: no noise today\n",
          "Error: connect ECONNREFUSED noise-db:5432\n    at hum (/app/src/noise.js:3:1)\n",
          "WARN  o.s.n.Hum - 503 Service Unavailable from http://noise:8080/hum\n");

  private final Random random;

  Rough(Random random) {
    this.random = random;
  }

  Faces.Face of(Faces.Face face, String[] row, String kind) {
    String type = random.nextInt(4) == 0 ? "" : face.type();
    String message = face.message();
    String body = face.body();
    String first = message.isEmpty() ? "" : message.lines().findFirst().orElse("").strip();
    if (random.nextInt(5) == 0 && first.length() > 5 && body.contains(first)) {
      message = "";
    } else if (random.nextInt(8) == 0 && !message.isEmpty()) {
      message = TRIED.get(random.nextInt(TRIED.size())) + message;
    }
    if (random.nextInt(6) == 0 && kind.equals("product")) {
      body = cut(body, row);
    } else if (random.nextInt(5) == 0) {
      body +=
          "\n"
              + OUTPUT.get(random.nextInt(OUTPUT.size()))
              + UNRELATED.get(random.nextInt(UNRELATED.size()));
    }
    if (random.nextInt(6) == 0) {
      body = coloured(body);
      message = coloured(message);
    }
    if (random.nextInt(6) == 0) {
      body = body.replace("\n", "\r\n");
    }
    return new Faces.Face(type, message, body);
  }

  /** After the line in which the cause's words stand last. */
  private static String cut(String body, String[] row) {
    int last = -1;
    for (String cell : row) {
      if (cell.length() > 2) {
        last = Math.max(last, body.lastIndexOf(cell));
      }
    }
    int end = last < 0 ? -1 : body.indexOf('\n', last);
    end = end < 0 ? -1 : body.indexOf('\n', end + 1);
    return end < 0 ? body : body.substring(0, end) + " […]";
  }

  private String coloured(String text) {
    boolean remains = random.nextBoolean();
    String on = remains ? "[31m" : "\u001b[31m";
    String off = remains ? "[39m" : "\u001b[39m";
    StringBuilder out = new StringBuilder(text.length() + 64);
    for (String line : text.split("(?<=\n)")) {
      int blank = line.indexOf(": ");
      boolean colours = blank > 0 && random.nextInt(3) == 0;
      out.append(colours ? on + line.substring(0, blank) + off + line.substring(blank) : line);
    }
    return out.toString();
  }
}
