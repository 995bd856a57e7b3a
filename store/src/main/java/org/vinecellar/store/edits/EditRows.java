package org.vinecellar.store.edits;

import static org.vinecellar.store.generated.Tables.EDIT;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.TEST;

import org.jooq.Condition;
import org.jooq.DSLContext;
import org.jooq.Record;
import org.jooq.SelectLimitStep;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.edits.Edit;
import org.vinecellar.core.edits.EditStore;
import org.vinecellar.core.edits.Subject;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.ResultId;
import org.vinecellar.store.results.Packed;
import org.vinecellar.store.sql.Sql;

/** Who changed what of one subject. */
public final class EditRows {
  private final DSLContext dsl;
  private final int projectId;
  private final Subject subject;
  private final EditStore.Hand hand;

  /** By that hand. */
  public EditRows(DSLContext dsl, int projectId, Subject subject, EditStore.Hand hand) {
    this.dsl = dsl;
    this.projectId = projectId;
    this.subject = subject;
    this.hand = hand;
  }

  /**
   * Notes a change.
   *
   * @param result whose outcome was set; null for another change
   * @param reason null when none was asked for
   */
  public void add(Edit.Difference difference, @Nullable ResultId result, @Nullable String reason) {
    dsl.insertInto(EDIT)
        .set(EDIT.PROJECT_ID, projectId)
        .set(EDIT.SUBJECT, (short) subject.kind().code())
        .set(EDIT.SUBJECT_ID, subject.id())
        .set(EDIT.PLACE, result == null ? null : Packed.place(result))
        .set(EDIT.MADE_AT, Sql.utc(hand.now()))
        .set(EDIT.MADE_BY, hand.name())
        .set(EDIT.FIELD, difference.field())
        .set(EDIT.TEXT_BEFORE, difference.before())
        .set(EDIT.TEXT_AFTER, difference.after())
        .set(EDIT.REASON, reason)
        .execute();
  }

  static Condition of(int projectId, Subject subject) {
    return EDIT.PROJECT_ID
        .eq(projectId)
        .and(EDIT.SUBJECT.eq((short) subject.kind().code()))
        .and(EDIT.SUBJECT_ID.eq(subject.id()));
  }

  /** Edits with the names of the results that they are about, the newest first. */
  static SelectLimitStep<Record> select(DSLContext dsl, Condition which) {
    return dsl.select(EDIT.asterisk(), TEST.NAME)
        .from(EDIT)
        .leftJoin(RESULT)
        .on(RESULT.RUN_ID.eq(EDIT.SUBJECT_ID), RESULT.PLACE.eq(EDIT.PLACE))
        .leftJoin(TEST)
        .on(TEST.PROJECT_ID.eq(EDIT.PROJECT_ID), TEST.ID.eq(RESULT.TEST_ID))
        .where(which)
        .orderBy(EDIT.ID.desc());
  }

  static Edit edit(Record row) {
    Integer place = row.get(EDIT.PLACE);
    return new Edit(
        row.get(EDIT.MADE_AT).toInstant(),
        row.get(EDIT.MADE_BY),
        row.get(EDIT.FIELD),
        place == null ? null : Packed.id(place),
        row.get(TEST.NAME),
        row.get(EDIT.TEXT_BEFORE),
        row.get(EDIT.TEXT_AFTER),
        row.get(EDIT.REASON));
  }

  /**
   * The refusal of a change to what was changed after it had been read.
   *
   * @param who changed it
   */
  static CellarException meanwhile(String who) {
    return new CellarException(
        ProblemCode.EDITED_MEANWHILE,
        who
            + " changed this after you had read it; nothing of yours was saved. Read it again,"
            + " and change it then");
  }
}
