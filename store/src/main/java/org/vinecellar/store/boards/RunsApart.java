package org.vinecellar.store.boards;

import static org.vinecellar.store.generated.Tables.RUN;
import static org.vinecellar.store.generated.Tables.RUN_LABEL;
import static org.vinecellar.store.generated.Tables.STREAM;

import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.util.ArrayList;
import java.util.List;
import java.util.stream.IntStream;
import org.jooq.Field;
import org.jooq.Record;
import org.jooq.Table;
import org.jooq.impl.DSL;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.store.generated.tables.RunLabel;

/**
 * Runs with what they are told apart by.
 *
 * @param runs joined with all that it takes
 * @param by a value for each dimension
 */
public record RunsApart(Table<?> runs, List<Field<?>> by) {
  /** Copies the fields. */
  public RunsApart {
    by = List.copyOf(by);
  }

  /** By so many dimensions; by none for all together. */
  public static RunsApart by(int projectId, List<Dimension> dimensions) {
    if (dimensions.size() > BoardFacts.MOST_DIMENSIONS) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE,
          "runs are told apart by "
              + dimensions.size()
              + " things; there can be "
              + BoardFacts.MOST_DIMENSIONS);
    }
    Table<?> from = RUN;
    List<Field<?>> by = new ArrayList<>();
    for (Dimension dimension : dimensions) {
      switch (dimension.way()) {
        case STREAM -> {
          from = from.join(STREAM).on(STREAM.PROJECT_ID.eq(projectId), STREAM.ID.eq(RUN.STREAM_ID));
          by.add(STREAM.NAME);
        }
        case BRANCH -> by.add(RUN.BRANCH);
        case LABEL -> {
          RunLabel label = RUN_LABEL.as("dimension" + by.size());
          from = from.leftJoin(label).on(label.RUN_ID.eq(RUN.ID), label.KEY.eq(dimension.key()));
          by.add(label.VALUE);
        }
      }
    }
    return new RunsApart(from, by);
  }

  /** To be grouped by, where they are selected first. */
  public List<? extends Field<?>> places() {
    return IntStream.rangeClosed(1, by.size()).mapToObj(DSL::inline).toList();
  }

  /** The values of a row in which they are selected first. */
  public List<@Nullable String> values(Record row) {
    List<@Nullable String> values = new ArrayList<>();
    for (int i = 0; i < by.size(); i++) {
      values.add(row.get(i, String.class));
    }
    return values;
  }

  /**
   * When the step began that a moment lies in.
   *
   * @param step null for the whole period
   */
  public static Field<OffsetDateTime> begin(
      @Nullable Step step, Period period, Field<OffsetDateTime> moment) {
    return step == null
        ? DSL.inline(period.from().atOffset(ZoneOffset.UTC))
        : DSL.field(
            "date_trunc({0}, {1}, 'UTC')", OffsetDateTime.class, DSL.inline(step.word()), moment);
  }
}
