package org.vinecellar.client.command;

import java.io.IOException;
import java.io.InputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.vinecellar.core.formats.Formats;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.csv.CsvColumns;

/** Looks at the headings of tables before they are sent: the portal could only refuse them. */
final class Tables {
  private static final int NAMED = 5;

  private Tables() {}

  /**
   * @param fields of the form
   * @throws CommandException {@code WRONG_CALL} that names the tables which cannot be read with
   *     what is said of their columns
   */
  static void check(List<Path> files, List<Map.Entry<String, String>> fields) {
    CsvColumns columns =
        CsvColumns.of(
            fields.stream()
                .filter(field -> field.getKey().equals("column"))
                .map(Map.Entry::getValue)
                .toList());
    List<String> refused = new ArrayList<>();
    for (Path file : files) {
      try (InputStream in = Files.newInputStream(file)) {
        String refusal = Formats.tableRefusal(in, columns);
        if (refusal != null) {
          refused.add(file + " " + refusal);
        }
      } catch (IOException | UnreadableFileException e) {
        // Whether it can be read at all is told when it is sent.
        continue;
      }
    }
    if (!refused.isEmpty()) {
      int others = refused.size() - Math.min(refused.size(), NAMED);
      throw new CommandException(
          ExitCode.WRONG_CALL,
          String.join("\n", refused.subList(0, refused.size() - others))
              + (others == 0 ? "" : "\nand " + others + " more tables")
              + "\nNothing was sent.");
    }
  }
}
