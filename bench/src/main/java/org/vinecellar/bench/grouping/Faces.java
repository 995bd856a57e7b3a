package org.vinecellar.bench.grouping;

import java.io.BufferedReader;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;

/**
 * Reads files of faces: what failures look like in one framework, family by family, each with rows
 * of names that make one cause each. The format is told in {@code bench/causes/README.md}.
 */
final class Faces {
  /** What a result says: type, message and body, with holes. */
  record Face(String type, String message, String body) {}

  /**
   * Look-alikes in one framework.
   *
   * @param kind product, test, data or environment
   * @param cause how a cause is called, with holes for the row; equal names are one cause
   *     everywhere
   * @param mass whether its causes hit many tests at once
   * @param single whether a cause is of one test alone
   */
  record Family(
      String framework,
      String name,
      String kind,
      String cause,
      boolean mass,
      boolean single,
      List<String[]> rows,
      List<Face> faces) {}

  /**
   * All of one framework.
   *
   * @param held whether nobody tunes on it
   * @param seen whether all of it was looked at, so that none of its causes counts as kept back
   * @param kept whether all of its causes are kept back
   * @param classes how classes of tests are called, with a hole for the suite's word
   * @param tests how tests are called, with a hole for the test's words
   */
  record Framework(
      String name,
      boolean held,
      boolean seen,
      boolean kept,
      String classes,
      String tests,
      List<Family> families) {
    /** Whether a cause may be tuned on. */
    boolean isOpen(String cause) {
      return seen || (!kept && !MadeStream.isHeld(cause));
    }
  }

  private Faces() {}

  static List<Framework> all(Path directory) throws IOException {
    List<Framework> all = new ArrayList<>();
    try (var files = Files.list(directory)) {
      for (Path file : files.filter(f -> f.toString().endsWith(".faces")).sorted().toList()) {
        all.add(read(file));
      }
    }
    return all;
  }

  private static Framework read(Path file) throws IOException {
    TreeMap<String, String> head = new TreeMap<>();
    List<Family> families = new ArrayList<>();
    String name = file.getFileName().toString().replace(".faces", "");
    try (BufferedReader reader = Files.newBufferedReader(file)) {
      String line = reader.readLine();
      while (line != null && !line.startsWith("== ")) {
        int colon = line.indexOf(": ");
        if (colon > 0 && !line.startsWith("#")) {
          head.put(line.substring(0, colon), line.substring(colon + 2));
        }
        line = reader.readLine();
      }
      while (line != null) {
        line = family(name, line.substring(3), reader, families);
      }
    }
    return new Framework(
        name,
        "yes".equals(head.get("held")),
        "yes".equals(head.get("seen")),
        "yes".equals(head.get("kept")),
        head.getOrDefault("class", "{suite}"),
        head.getOrDefault("test", "{test}"),
        families);
  }

  /** One family; the beginning of the next one, or null. */
  private static String family(
      String framework, String title, BufferedReader reader, List<Family> families)
      throws IOException {
    String[] words = title.split(" +");
    List<String[]> rows = new ArrayList<>();
    List<Face> faces = new ArrayList<>();
    String cause = framework + "-" + words[0] + "-{1}";
    String line = reader.readLine();
    StringBuilder body = null;
    String type = "";
    String message = "";
    while (line != null && !line.startsWith("== ")) {
      if (line.startsWith("* ")) {
        rows.add(line.substring(2).split(" *\\| *"));
      } else if (line.startsWith("cause: ")) {
        cause = line.substring(7);
      } else if (line.equals("-- face")) {
        if (body != null) {
          faces.add(new Face(type, message, body.toString()));
        }
        body = new StringBuilder();
        type = "";
        message = "";
      } else if (body != null && body.length() == 0 && line.startsWith("type: ")) {
        type = line.substring(6);
      } else if (body != null && body.length() == 0 && line.startsWith("message: ")) {
        message = line.substring(9).replace("⏎", "\n");
      } else if (body != null) {
        body.append(line).append('\n');
      }
      line = reader.readLine();
    }
    if (body != null) {
      faces.add(new Face(type, message, body.toString()));
    }
    List<String> marks = List.of(words);
    families.add(
        new Family(
            framework,
            words[0],
            words[1],
            cause,
            marks.contains("mass"),
            marks.contains("single"),
            rows,
            faces));
    return line;
  }
}
