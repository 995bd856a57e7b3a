package org.vinecellar.client.command;

import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.output.Terminal;

/** Whether a stream that people name is there. */
final class Streams {
  private Streams() {}

  /** Where nothing can be told without it. */
  static void needed(Portal portal, String stream) {
    if (!hasRuns(portal, stream)) {
      throw missing(stream);
    }
  }

  /** Where a pipeline may ask before its first run has come: it is said, and nothing fails. */
  static void noted(Portal portal, @Nullable String stream, Terminal terminal) {
    if (stream != null && !hasRuns(portal, stream)) {
      terminal.note(
          "there is no stream “"
              + Terminal.clean(stream)
              + "” with a run: only what holds in every stream is told");
    }
  }

  static boolean hasRuns(Portal portal, String stream) {
    return !portal.get("streams", Map.of("name", stream)).isEmpty();
  }

  static CommandException missing(String stream) {
    return new CommandException(
        ExitCode.NOTHING_FOUND, "there is no stream “" + stream + "” with a run; see vine runs");
  }
}
