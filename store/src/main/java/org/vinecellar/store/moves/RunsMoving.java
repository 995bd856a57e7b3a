package org.vinecellar.store.moves;

import static org.vinecellar.store.generated.Tables.RUN;

import org.jooq.DSLContext;
import org.jooq.Record;
import org.vinecellar.core.edits.Edit;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.moves.MoveStore.Place;
import org.vinecellar.store.edits.EditRows;
import org.vinecellar.store.ledger.RunLedger;
import org.vinecellar.store.streams.StreamNames;

/** Moves runs, one after the other, and notes who did it. Locks are taken runs first. */
final class RunsMoving {
  private final DSLContext dsl;
  private final int projectId;

  RunsMoving(DSLContext dsl, int projectId) {
    this.dsl = dsl;
    this.projectId = projectId;
  }

  /** After the runs: an upload holds its run when it comes to the stream. */
  void lockStreams(long one, long other) {
    dsl.fetch(
        "select id from stream where project_id = ? and id in (?, ?) order by id for no key update",
        projectId,
        one,
        other);
  }

  /**
   * Moves one.
   *
   * @param from what its stream was called
   */
  Place move(RunLedger ledger, String from, long to, Hand hand) {
    Record run = ledger.run();
    int number = ledger.moveTo(to, hand.now());
    RunLedger.Settled unused = ledger.settle(hand.now());
    String target = StreamNames.of(dsl, projectId, to);
    new EditRows(dsl, projectId, Subject.run(run.get(RUN.ID)), hand)
        .add(
            new Edit.Difference("stream", from + "#" + run.get(RUN.NUMBER), target + "#" + number),
            null,
            null);
    return new Place(target, number);
  }
}
