package org.vinecellar.store.filters;

import static org.vinecellar.store.generated.Tables.STREAM;

import org.jooq.Condition;
import org.jooq.impl.DSL;
import org.jooq.impl.SQLDataType;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.core.trust.flaky.Verdict;
import org.vinecellar.store.generated.tables.Stream;
import org.vinecellar.store.generated.tables.TestBelief;

/** What a test is taken for in a stream. */
final class VerdictTerms extends Terms {
  private final TestBelief belief;

  VerdictTerms(int projectId, int depth, TestBelief belief) {
    super(projectId, depth);
    this.belief = belief;
  }

  @Override
  Condition holds(Attribute attribute, @Nullable String key, Match match) {
    return switch (attribute) {
      case VERDICT_IS ->
          match.isPresent() ? DSL.trueCondition() : belief.VERDICT.eq(code(match.words()));
      case VERDICT_STREAM -> stream(match);
      case VERDICT_SCORE -> match.number(belief.SCORE.cast(SQLDataType.NUMERIC));
      case VERDICT_RATE -> match.number(belief.RATE.cast(SQLDataType.NUMERIC));
      case VERDICT_RUNS -> match.number(belief.RUNS);
      case VERDICT_STUMBLES -> match.number(belief.STUMBLES);
      default -> throw notHere(attribute);
    };
  }

  private static short code(String word) {
    for (Verdict verdict : Verdict.values()) {
      if (verdict.word().equals(word)) {
        return (short) verdict.code();
      }
    }
    throw new IllegalStateException("no verdict is " + word);
  }

  private Condition stream(Match match) {
    Stream stream = STREAM.as(below("stream"));
    return belief.STREAM_ID.in(
        DSL.select(stream.ID)
            .from(stream)
            .where(stream.PROJECT_ID.eq(projectId), match.name(stream.NAME)));
  }

  @Override
  Condition within(Relation relation, Criterion criterion) {
    throw notHere(relation);
  }
}
