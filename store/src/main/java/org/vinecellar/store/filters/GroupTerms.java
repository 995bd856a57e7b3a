package org.vinecellar.store.filters;

import static org.vinecellar.store.generated.Tables.DECISION;
import static org.vinecellar.store.generated.Tables.FAILURE;
import static org.vinecellar.store.generated.Tables.GROUP_TICKET;
import static org.vinecellar.store.generated.Tables.REGROUPING;
import static org.vinecellar.store.generated.Tables.RESULT;
import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.STREAM;
import static org.vinecellar.store.generated.Tables.TEST;
import static org.vinecellar.store.generated.Tables.TICKET;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.Name;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.core.filters.RunSide;
import org.vinecellar.store.generated.tables.Decision;
import org.vinecellar.store.generated.tables.Failure;
import org.vinecellar.store.generated.tables.FailureGroup;
import org.vinecellar.store.generated.tables.GroupTicket;
import org.vinecellar.store.generated.tables.Regrouping;
import org.vinecellar.store.generated.tables.Result;
import org.vinecellar.store.generated.tables.Run;
import org.vinecellar.store.generated.tables.Stream;
import org.vinecellar.store.generated.tables.Test;
import org.vinecellar.store.generated.tables.Ticket;

/** A failure group. */
final class GroupTerms extends Terms {
  private final FailureGroup group;

  GroupTerms(int projectId, int depth, FailureGroup group) {
    super(projectId, depth);
    this.group = group;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case GROUP_NUMBER -> match.number(group.ID);
      case GROUP_SENTENCE -> match.text(group.SENTENCE);
      case GROUP_RESULTS -> match.number(group.RESULTS);
      case GROUP_UNSORTED -> match.number(group.OPEN);
      case GROUP_TESTS -> match.number(group.TESTS);
      case GROUP_RUNS -> match.number(group.RUNS);
      case GROUP_STREAMS -> match.number(group.STREAMS);
      case GROUP_LATEST -> match.time(group.LAST_AT);
      case GROUP_FOUND -> match.time(group.MADE_AT);
      case GROUP_ASSIGNED -> match.name(group.ASSIGNED_TO);
      default -> throw notHere(attribute);
    };
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    return switch (relation) {
      case GROUP_RESULTS -> results(criterion);
      case GROUP_DECISIONS -> {
        Decision decision = DECISION.as(below("decision"));
        yield DSL.exists(
            DSL.selectOne()
                .from(decision)
                .where(
                    decision.PROJECT_ID.eq(projectId),
                    decision.GROUP_ID.eq(group.ID),
                    decision.UNDONE_AT.isNull(),
                    new DecisionTerms(projectId, depth + 1, decision).of(criterion)));
      }
      case GROUP_TICKETS -> tickets(criterion);
      default -> throw notHere(relation);
    };
  }

  /** Tickets of the group, and of those that were put together with it. */
  private Condition tickets(Criterion criterion) {
    Name whole = DSL.name(below("whole"));
    Field<Long> id = DSL.field(DSL.name(below("whole"), "id"), Long.class);
    Regrouping joined = REGROUPING.as(below("joined"));
    GroupTicket link = GROUP_TICKET.as(below("link"));
    Ticket ticket = TICKET.as(below("ticket"));
    return DSL.exists(
        DSL.withRecursive(
                whole
                    .fields("id")
                    .as(
                        DSL.select(group.ID)
                            .union(
                                DSL.select(joined.GROUP_ID)
                                    .from(joined)
                                    .join(DSL.table(whole))
                                    .on(joined.TO_GROUP_ID.eq(id))
                                    .where(
                                        joined.PROJECT_ID.eq(projectId),
                                        joined.TEST_ID.eq(DSL.inline(0L))))))
            .selectOne()
            .from(DSL.table(whole))
            .join(link)
            .on(link.PROJECT_ID.eq(projectId), link.GROUP_ID.eq(id))
            .join(ticket)
            .on(ticket.PROJECT_ID.eq(link.PROJECT_ID), ticket.ID.eq(link.TICKET_ID))
            .where(new TicketTerms(projectId, depth + 1, ticket).of(criterion)));
  }

  private Condition results(Criterion criterion) {
    RunSide side = RunSide.of(criterion);
    Failure failure = FAILURE.as(below("of"));
    Result result = RESULT.as(below("result"));
    Test test = TEST.as(below("test"));
    Run run = RUN.as(below("its"));
    Stream stream = STREAM.as(below("stream"));
    return DSL.exists(
        DSL.selectOne()
            .from(failure)
            .join(run)
            .on(run.PROJECT_ID.eq(projectId), run.ID.eq(failure.RUN_ID), run.NUMBER.isNotNull())
            .join(stream)
            .on(
                stream.PROJECT_ID.eq(projectId),
                stream.ID.eq(run.STREAM_ID),
                stream.DELETED_AT.isNull())
            .join(result)
            .on(result.RUN_ID.eq(failure.RUN_ID), result.PLACE.eq(failure.PLACE))
            .join(test)
            .on(test.PROJECT_ID.eq(projectId), test.ID.eq(result.TEST_ID))
            .where(
                failure.GROUP_ID.eq(group.ID),
                new RunTerms(projectId, depth + 1, run).of(side.runs()),
                new ResultTerms(projectId, depth + 1, result, test, result.RUN_ID)
                    .of(side.rest())));
  }
}
