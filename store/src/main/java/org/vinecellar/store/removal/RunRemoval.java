package org.vinecellar.store.removal;

import static org.vinecellar.store.generated.Tables.BUNDLE;
import static org.vinecellar.store.generated.Tables.EDIT;
import static org.vinecellar.store.generated.Tables.NOTE;
import static org.vinecellar.store.generated.Tables.PART;
import static org.vinecellar.store.generated.Tables.PART_FILE;
import static org.vinecellar.store.generated.Tables.RUN;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import java.util.Set;
import org.jooq.DSLContext;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.store.blobs.UnusedContents;
import org.vinecellar.store.bundles.BundleRows;
import org.vinecellar.store.ledger.GroupCounts;
import org.vinecellar.store.work.WorkKind;
import org.vinecellar.store.work.WorkRows;

/** Takes the rows of a run off the disk, so many in a transaction. */
public final class RunRemoval {
  private static final int ROWS = 20_000;
  private static final int FILES = 20;

  /** All that hangs on a run by its number alone. */
  private static final List<String> TABLES =
      List.of(
          "attempt",
          "result_note",
          "run_change",
          "stumble",
          "run_suite",
          "overruling",
          "result_row",
          "run_label",
          "run_failing",
          "run_cause",
          "run_tag",
          "part_number");

  private RunRemoval() {}

  /** Work: one step; asks for the next. */
  public static void step(DSLContext dsl, int projectId, long run, Instant now) {
    boolean removed =
        dsl.fetchExists(
            RUN, RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(run), RUN.DELETED_AT.isNotNull());
    if (!removed) {
      return;
    }
    if (someAttachments(dsl, projectId, run)
        || someFailures(dsl, projectId, run)
        || someRows(dsl, run)
        || someFiles(dsl, projectId, run)
        || aBundle(dsl, projectId, run)) {
      WorkRows.ask(dsl, WorkKind.REMOVE_RUN, projectId, run, now);
      return;
    }
    dsl.deleteFrom(PART).where(PART.PROJECT_ID.eq(projectId), PART.RUN_ID.eq(run)).execute();
    short subject = (short) Subject.Kind.RUN.code();
    dsl.deleteFrom(NOTE)
        .where(NOTE.PROJECT_ID.eq(projectId), NOTE.SUBJECT.eq(subject), NOTE.SUBJECT_ID.eq(run))
        .execute();
    dsl.deleteFrom(EDIT)
        .where(EDIT.PROJECT_ID.eq(projectId), EDIT.SUBJECT.eq(subject), EDIT.SUBJECT_ID.eq(run))
        .execute();
    dsl.deleteFrom(RUN).where(RUN.PROJECT_ID.eq(projectId), RUN.ID.eq(run)).execute();
  }

  private static boolean someAttachments(DSLContext dsl, int projectId, long run) {
    List<Long> named =
        dsl.fetch(
                "delete from attachment where run_id = ? and ctid ="
                    + " any(array(select ctid from attachment where run_id = ? limit ?))"
                    + " returning blob_id",
                run,
                run,
                ROWS)
            .getValues(0, Long.class);
    UnusedContents.doubt(
        dsl, projectId, named.stream().filter(Objects::nonNull).distinct().toList());
    return !named.isEmpty();
  }

  private static boolean someFailures(DSLContext dsl, int projectId, long run) {
    List<Long> groups =
        dsl.fetch(
                "delete from failure where run_id = ? and ctid = any(array(select ctid from failure"
                    + " where run_id = ? limit ?)) returning group_id",
                run,
                run,
                ROWS)
            .getValues(0, Long.class);
    new GroupCounts(dsl, projectId).lostResults(Set.copyOf(groups));
    return !groups.isEmpty();
  }

  /** Whether there were any. The run is named twice: rows are found by their place in one table. */
  private static boolean someRows(DSLContext dsl, long run) {
    int left = ROWS;
    for (String table : TABLES) {
      left -=
          dsl.execute(
              "delete from "
                  + table
                  + " where run_id = ? and ctid = any(array(select ctid from "
                  + table
                  + " where run_id = ? limit ?))",
              run,
              run,
              left);
      if (left == 0) {
        return true;
      }
    }
    return false;
  }

  private static boolean someFiles(DSLContext dsl, int projectId, long run) {
    List<Long> blobs =
        dsl.select(PART_FILE.BLOB_ID)
            .from(PART_FILE)
            .where(PART_FILE.PROJECT_ID.eq(projectId), PART_FILE.RUN_ID.eq(run))
            .limit(FILES)
            .fetch(PART_FILE.BLOB_ID);
    if (!blobs.isEmpty()) {
      Long[] all = blobs.toArray(Long[]::new);
      UnusedContents.doubt(dsl, projectId, blobs);
      dsl.execute(
          "delete from part_file where project_id = ? and run_id = ? and blob_id = any(?)",
          projectId,
          run,
          all);
    }
    return !blobs.isEmpty();
  }

  private static boolean aBundle(DSLContext dsl, int projectId, long run) {
    Long bundle =
        dsl.select(BUNDLE.ID)
            .from(BUNDLE)
            .where(BUNDLE.PROJECT_ID.eq(projectId), BUNDLE.RUN_ID.eq(run))
            .limit(1)
            .fetchOne(BUNDLE.ID);
    if (bundle == null) {
      return false;
    }
    BundleRows.drop(dsl, projectId, bundle);
    return true;
  }
}
