package org.vinecellar.store.ingest;

import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.ingest.FileReport;
import org.vinecellar.core.ingest.IngestStore.Reservation;
import org.vinecellar.core.ingest.UploadReport;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * Files that another run of the stream has: what a job finds in its folder that an earlier one
 * left. Only files whose times tell them from others count; the rest may be the same every night.
 */
final class FilesOfBefore {
  private final Map<Integer, Integer> runs = new HashMap<>();
  private final UploadReport report;

  private FilesOfBefore(UploadReport report) {
    this.report = report;
  }

  /** Looks for the files of an upload, in the order of its report. */
  static FilesOfBefore find(
      DSLContext dsl, Reservation place, UploadReport report, List<RawFile> files) {
    FilesOfBefore found = new FilesOfBefore(report);
    if (report.dated().isEmpty()) {
      return found;
    }
    Map<Long, Integer> runOf = new HashMap<>();
    for (Record row :
        dsl.fetch(
            "select f.content_key, max(r.number) from part_file f"
                + " join run r on r.project_id = f.project_id and r.id = f.run_id"
                + " where f.project_id = ? and f.content_key = any(?) and f.run_id <> ?"
                + " and r.stream_id = ? and r.number is not null and r.deleted_at is null"
                + " group by f.content_key",
            place.projectId(),
            report.dated().stream().map(file -> files.get(file).content()).toArray(Long[]::new),
            place.runId(),
            place.streamId())) {
      runOf.put(row.get(0, Long.class), row.get(1, Integer.class));
    }
    for (int file : report.dated()) {
      Integer run = runOf.get(files.get(file).content());
      if (run != null) {
        found.runs.put(file, run);
      }
    }
    return found;
  }

  /**
   * Refuses what holds nothing new, unless it is wanted, or is what a failed job has left.
   *
   * @throws CellarException {@code SAME_FILES}
   */
  FilesOfBefore check(UploadRequest request) {
    boolean wrong = request.job() != null && request.job().wentWrong();
    if (runs.isEmpty() || request.allowed().again() || wrong) {
      return this;
    }
    for (int i = 0; i < report.files().size(); i++) {
      boolean holds = !report.files().get(i).counts().isNothing();
      if (holds && !runs.containsKey(i)) {
        return this;
      }
    }
    int run = runs.values().stream().mapToInt(Integer::intValue).max().orElseThrow();
    throw new CellarException(
        ProblemCode.SAME_FILES,
        "run #"
            + run
            + " of “"
            + request.target().stream()
            + "” has "
            + (report.files().size() == 1 ? "this very file" : "these very files")
            + ", times and all; nothing was stored. Tests that were not run anew leave the files of"
            + " before. If they shall count again (a build cache), say so (--again)");
  }

  /** The report, with a word on each file that is one of before. */
  List<FileReport> files() {
    List<FileReport> files = new ArrayList<>(report.files());
    runs.forEach(
        (file, run) ->
            files.set(
                file,
                files.get(file).with("the same file came with run #" + run + ", times and all")));
    return files;
  }
}
