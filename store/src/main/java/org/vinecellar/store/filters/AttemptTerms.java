package org.vinecellar.store.filters;

import org.jooq.Condition;
import org.jooq.Field;
import org.jooq.JSONB;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.store.generated.tables.Attempt;
import org.vinecellar.store.generated.tables.Result;

/** An attempt. One that has nothing to show but a first line stands in no row of its own. */
final class AttemptTerms extends Terms {
  private final Attempt attempt;
  private final Result result;

  /**
   * @param attempt all null where there is no row
   * @param result that it is of
   */
  AttemptTerms(int projectId, int depth, Attempt attempt, Result result) {
    super(projectId, depth);
    this.attempt = attempt;
    this.result = result;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case ATTEMPT_TYPE -> match.text(attempt.FAILURE_TYPE).or(more("type", match));
      case ATTEMPT_MESSAGE -> match.text(message()).or(more("message", match));
      case ATTEMPT_TRACE -> match.text(attempt.TRACE).or(more("trace", match));
      case ATTEMPT_OUTPUT -> match.text(attempt.STDOUT).or(match.text(attempt.STDERR));
      case ATTEMPT_STEP -> step(attempt, depth, match);
      default -> throw notHere(attribute);
    };
  }

  private Field<String> message() {
    return DSL.when(attempt.ATTEMPT_NO.isNull(), result.FIRST_LINE).otherwise(attempt.MESSAGE);
  }

  /** A word of the failures after the first. */
  private Condition more(String word, Match match) {
    return any(attempt.MORE_FAILURES, "strict $[*]." + word, depth, match);
  }

  /** Steps, at whatever depth, are the objects in their column that have an outcome. */
  static Condition step(Attempt attempt, int depth, Match match) {
    return any(attempt.STEPS, "strict $.** ? (exists(@.outcome)).text", depth, match);
  }

  private static Condition any(Field<JSONB> column, String path, int depth, Match match) {
    String name = "one" + (depth + 1);
    Table<?> found =
        DSL.table("jsonb_path_query({0}, {1}::jsonpath)", column, DSL.inline(path))
            .as(name, "value");
    Field<String> text =
        DSL.field("({0} #>> array[]::text[])", String.class, DSL.field(DSL.name(name, "value")));
    return DSL.exists(DSL.selectOne().from(found).where(match.text(text)));
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    throw notHere(relation);
  }
}
