package org.vinecellar.client.command;

import java.util.Locale;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.settings.PipelineEnvironment;
import org.vinecellar.core.runs.Job;
import picocli.CommandLine.Option;

/** How the job came to its end, as it is told, or as the pipeline server tells it. */
final class JobStatus {
  @Option(
      names = "--job-status",
      paramLabel = "STATUS",
      description =
          "How the job ended: passed, failed or cancelled, in the words of your server too. Of a job"
              + " that failed a run is kept, and red, even without results (VINE_JOB_STATUS).")
  private @Nullable String status;

  /** Null when nothing tells it. */
  Job.@Nullable Status of(Map<String, String> environment, PipelineEnvironment pipeline) {
    String told = UploadSettings.told(status, environment.get("VINE_JOB_STATUS"));
    if (told != null) {
      Job.Status known = status(told);
      if (known == null) {
        throw new CommandException(
            ExitCode.WRONG_CALL,
            "the job status “"
                + told
                + "” is none of passed, failed, cancelled. Nothing was sent.");
      }
      return known;
    }
    // A server may tell other things there, as that the job still runs.
    String usual = pipeline.value("job-status");
    return usual == null ? null : status(usual);
  }

  private static Job.@Nullable Status status(String word) {
    return switch (word.strip().toLowerCase(Locale.ROOT)) {
      case "passed", "pass", "success", "succeeded", "succeededwithissues", "ok", "0" ->
          Job.Status.PASSED;
      case "failed", "fail", "failure", "error", "unstable", "timedout", "timed_out", "1" ->
          Job.Status.FAILED;
      case "cancelled", "canceled", "aborted" -> Job.Status.CANCELLED;
      default -> null;
    };
  }
}
