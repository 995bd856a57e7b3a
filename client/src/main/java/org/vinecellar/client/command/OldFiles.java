package org.vinecellar.client.command;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.history.Times;
import org.vinecellar.client.output.Terminal;

/** Names files that were written before the job began: an earlier one has left them, perhaps. */
final class OldFiles {
  /** Clocks of servers and of those who run their jobs are not the same. */
  private static final Duration TOLERANCE = Duration.ofMinutes(1);

  private static final int NAMED = 3;

  private OldFiles() {}

  /**
   * @param started as the pipeline server tells it; null when it does not
   */
  static void warn(List<Path> files, @Nullable String started, Terminal terminal) {
    Instant began = started == null ? null : Times.read(started).orElse(null);
    if (began == null) {
      return;
    }
    List<String> old = new ArrayList<>();
    for (Path file : files) {
      try {
        if (Files.getLastModifiedTime(file).toInstant().isBefore(began.minus(TOLERANCE))) {
          old.add(file.toString());
        }
      } catch (IOException e) {
        // Whether it can be read is told when it is sent.
        continue;
      }
    }
    if (!old.isEmpty()) {
      int others = old.size() - Math.min(old.size(), NAMED);
      terminal.note(
          (old.size() == 1 ? "1 file is" : old.size() + " files are")
              + " older than this job, which began at "
              + began
              + ": "
              + String.join(", ", old.subList(0, old.size() - others))
              + (others == 0 ? "" : " and " + others + " more")
              + ". If an earlier job has left "
              + (old.size() == 1 ? "it" : "them")
              + ", clear the folder before the tests, or let vine exec run them");
    }
  }
}
