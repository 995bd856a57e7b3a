package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** When a push that went well shall fail its job all the same. */
final class FailOn {
  @Option(
      names = "--fail-on",
      paramLabel = "WHAT",
      description =
          "End with 10 when the run has results that are failing, or only when some are new.")
  private @Nullable String what;

  /**
   * To be called before anything is sent.
   *
   * @throws CommandException when it names nothing that there is
   */
  void check() {
    if (what != null && !what.equals("failing") && !what.equals("new")) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          "--fail-on takes failing or new, not “" + what + "”. Nothing was sent.");
    }
  }

  /** The code that a push ends with that went well. */
  int code(JsonNode receipt) {
    JsonNode run = receipt.path("run");
    int failing =
        run.path("failed").asInt() + run.path("errored").asInt() + run.path("setUps").asInt();
    int fresh = receipt.path("changes").path("newFailing").asInt();
    boolean fails = "failing".equals(what) ? failing > 0 : "new".equals(what) && fresh > 0;
    return fails ? ExitCode.FAILING : ExitCode.DONE;
  }
}
