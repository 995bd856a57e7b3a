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
          "End with 10 when the run has failing results, or new ones; what is in quarantine does not count.")
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
    return what != null && counted(receipt) > 0 ? ExitCode.FAILING : ExitCode.DONE;
  }

  private int counted(JsonNode receipt) {
    JsonNode quarantined = receipt.path("quarantined");
    if ("new".equals(what)) {
      return receipt.path("changes").path("newFailing").asInt()
          - quarantined.path("newFailing").asInt();
    }
    JsonNode run = receipt.path("run");
    return run.path("failed").asInt()
        + run.path("errored").asInt()
        + run.path("setUps").asInt()
        - quarantined.path("failing").asInt();
  }
}
