package org.vinecellar.core.ingest;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Random;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.vinecellar.core.results.Origin;

class RunChoiceTest {
  private static final Instant TEN = Instant.parse("2026-10-01T10:00:00Z");
  private static final String COMMIT = "a1b2c3d4e5f6a7b8";

  /**
   * A run of ten o'clock, and a part that comes so many minutes later: of which commit and build
   * (the run's has both, when one is told), begun when, and what becomes of it.
   */
  @ParameterizedTest
  @CsvSource({
    // closed after, commit of run, of part; build of run, of part; attempt, begun after, comes
    // after
    "    ,        , , ,  ,  ,     ,   30, JOIN", // a part more
    "    , a1b2c3d4e5f6a7b8, A1B2C3D, , , , , 30, JOIN", // a revision told in short
    "    , a1b2c3d4e5f6a7b8, ffff000, , , , , 30, BEGIN: is of commit a1b2c3d4e5",
    "    , a1b2c3d4e5f6a7b8, ffff000, 1, 1, 2, , 30, BEGIN: is of commit",
    "    ,        , , ,  ,  ,     , 1000, JOIN", // a run that goes on, heard of after 5 hours
    "    ,        , , ,  ,  ,     , 1100, BEGIN: began 18 h earlier",
    "    ,        , , ,  ,  , 1440, 1450, BEGIN: began 24 h earlier",
    "    ,        , , ,  ,  , -1440, 10, BEGIN: began 24 h later",
    "    ,        , , 1, 1,  , -1440, 10, JOIN", // the clock of one of its machines is off
    "    ,        , , 1, 1,  , 1440, 1450, BEGIN: began 24 h earlier", // one page for every night
    "60  ,        , , 1, 1,  , 1440, 1450, BEGIN: began 24 h earlier",
    "60  ,        , , 1, 1, 2, 1440, 1450, JOIN", // tried again the day after
    "    ,        , , 1, 2,  ,   10,  20, JOIN", // jobs of a matrix, each with a page of its own
    "60  ,        , , ,  ,  ,   50,  90, JOIN", // just after
    "60  ,        , , ,  ,  ,   50, 200, REFUSE: was closed 2 h ago",
    "60  , a1b2c3d4e5f6a7b8, a1b2c3d4e5f6a7b8, 1, 2, , 50, 90, JOIN",
    "60  , a1b2c3d4e5f6a7b8, a1b2c3d4e5f6a7b8, 1, 1, , 50, 200, REFUSE: was closed",
    "60  , a1b2c3d4e5f6a7b8, a1b2c3d4e5f6a7b8, 1, 1, 2, 190, 200, JOIN", // its job tried again
    "60  ,        , , 1, 2,  ,   80,  90, BEGIN: another build",
    "60  ,        , , 1, 2,  ,  190, 200, BEGIN: another build",
    "60  ,        , , ,  ,  , 1440, 1500, BEGIN: began 24 h earlier", // the next night
    "60  ,        , , ,  ,  ,     , 1500, BEGIN: began 25 h earlier", // the same, without times
    "60  ,        , , ,  ,  ,   10, 5000, REFUSE: was closed", // of that night, but late
    "60  , a1b2c3d4e5f6a7b8, ffff000, , , , 10, 20, BEGIN: is of commit a1b2c3d4e5, this of ffff000",
  })
  void oneRun(
      @Nullable Integer closed,
      @Nullable String ofRun,
      @Nullable String ofPart,
      @Nullable Integer builtRun,
      @Nullable Integer builtPart,
      @Nullable Integer attempt,
      @Nullable Integer began,
      int comes,
      String becomes) {
    RunChoice.Known run =
        new RunChoice.Known(
            1,
            12,
            TEN,
            after(300),
            closed == null ? null : after(closed),
            ofRun,
            builtRun != null,
            builtRun != null && builtRun.equals(builtPart),
            false);
    RunChoice.Coming part =
        new RunChoice.Coming(
            new Origin(ofPart, null, builtPart == null ? null : "https://ci.example/" + builtPart),
            attempt,
            began == null ? null : after(began),
            true,
            null,
            after(comes));
    RunChoice.Choice choice = RunChoice.of(List.of(run), part);
    String why = choice.why();
    assertThat(
            (choice.refused() ? "REFUSE: " : choice.run() == null ? "BEGIN: " : "JOIN")
                + (why == null ? "" : why))
        .contains(becomes.split(": ", 2))
        .startsWith(becomes.split(": ", 2)[0]);
    assertThat(RunChoice.takes(run, part)).isEqualTo(becomes.equals("JOIN"));
  }

  @Test
  void whatIsThereAlreadyIsFoundHoweverLate() {
    RunChoice.Known old = new RunChoice.Known(1, 1, TEN, TEN, after(5), COMMIT, false, false, true);
    RunChoice.Coming again =
        new RunChoice.Coming(
            new Origin(COMMIT, null, null), null, null, false, null, after(90_000));
    assertThat(RunChoice.takes(old, again)).isTrue();
    assertThat(RunChoice.takes(old, again.told(TEN))).isTrue();
    // The same words of another night: nothing in them tells the time.
    assertThat(RunChoice.takes(old, again.told(null))).isFalse();
  }

  /** Nights with one key, their parts in any order: each gets into its own. */
  @Test
  void nightsAreKeptApartInAnyOrder() {
    for (int seed = 0; seed < 50; seed++) {
      Random random = new Random(seed);
      List<Integer> parts = new ArrayList<>();
      for (int night = 0; night < 5; night++) {
        for (int part = 0; part < 4; part++) {
          parts.add(night * 1440 + random.nextInt(300));
        }
      }
      Collections.shuffle(parts, random);
      List<RunChoice.Known> runs = new ArrayList<>();
      for (int began : parts) {
        RunChoice.Coming part =
            new RunChoice.Coming(Origin.UNKNOWN, null, after(began), true, null, after(10_000));
        RunChoice.Choice choice = RunChoice.of(runs, part);
        RunChoice.Known run = choice.run();
        assertThat(choice.refused()).isFalse();
        if (run == null) {
          int number = runs.size() + 1;
          runs.add(
              new RunChoice.Known(
                  number, number, after(began), after(began), null, null, false, false, false));
        } else {
          assertThat(Duration.between(run.started(), after(began)).abs())
              .isLessThan(RunChoice.APART);
        }
      }
      assertThat(runs).as("seed %d", seed).hasSize(5);
    }
  }

  private static Instant after(int minutes) {
    return TEN.plus(Duration.ofMinutes(minutes));
  }
}
