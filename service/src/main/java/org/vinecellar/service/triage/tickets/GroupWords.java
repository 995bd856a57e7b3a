package org.vinecellar.service.triage.tickets;

import jakarta.inject.Singleton;
import java.time.Duration;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.runs.ResultDetail;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.core.triage.desk.DeskStore;
import org.vinecellar.core.triage.desk.GroupDetail;
import org.vinecellar.core.triage.desk.GroupLine;
import org.vinecellar.core.triage.desk.Title;
import org.vinecellar.core.triage.tickets.Entry;
import org.vinecellar.core.triage.tickets.Ranking;
import org.vinecellar.core.triage.tickets.SearchWords;
import org.vinecellar.core.triage.tickets.Tracker;
import org.vinecellar.core.triage.tickets.TrackerException;
import org.vinecellar.service.triage.tickets.EntryBody.FoundBody;

/** What a failure group says, as far as it helps to find or make a ticket. */
@Singleton
public class GroupWords {
  private static final int WORDS = 5;
  private static final int OF_EACH = 30;
  private static final int MOST = 15;

  /** Further words are not looked for after so long. */
  private static final Duration PATIENCE = Duration.ofSeconds(8);

  private final DeskStore desk;
  private final RunStore runs;

  GroupWords(DeskStore desk, RunStore runs) {
    this.desk = desk;
    this.runs = runs;
  }

  /**
   * @throws CellarException {@code NOT_FOUND} when there is no such group
   */
  Of of(int projectId, long group) {
    GroupDetail detail =
        desk.group(projectId, group)
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "there is no failure group " + group + "; perhaps its runs were deleted"));
    GroupLine line = detail.line();
    String sample =
        runs.run(projectId, line.last().run())
            .flatMap(run -> runs.result(projectId, run, line.shown()))
            .map(GroupWords::said)
            .orElse("");
    return new Of(detail, sample);
  }

  /** What the last try says that failed. */
  private static String said(ResultDetail result) {
    List<ResultDetail.Try> tries = result.tries();
    for (int i = tries.size() - 1; i >= 0; i--) {
      List<Failure> failures = tries.get(i).attempt().failures();
      if (!failures.isEmpty()) {
        Failure first = failures.get(0);
        String message = first.message() == null ? "" : first.message();
        String trace = first.trace() == null ? "" : first.trace();
        return trace.contains(message) ? trace : message + "\n" + trace;
      }
    }
    return "";
  }

  /**
   * A group.
   *
   * @param sample what one of its results says; empty for nothing
   */
  record Of(GroupDetail detail, String sample) {
    private String title() {
      GroupLine line = detail.line();
      return Title.of(line.kind(), line.sentence(), line.template()).text();
    }

    /** What the reason names, as programs are named there. */
    private String named() {
      String[] parts = detail.line().sentence().split("`");
      StringBuilder named = new StringBuilder();
      for (int i = 1; i < parts.length; i += 2) {
        named.append(parts[i]).append(' ');
      }
      return named.toString();
    }

    /** Without a trace, most of which tells of anything else. */
    private String told() {
      return detail.line().template() + "\n" + detail.line().test();
    }

    private String rest() {
      return detail.line().sentence().replace("`", " ") + "\n" + told() + "\n" + sample;
    }

    /**
     * Entries like it.
     *
     * @param text that is looked for; empty for words of the group
     */
    FoundBody found(Tracker tracker, String text, List<String> linked, InstantSource clock) {
      List<String> asked = text.isEmpty() ? SearchWords.of(named(), told(), WORDS) : List.of(text);
      Instant end = clock.instant().plus(PATIENCE);
      Map<String, Entry> found = new LinkedHashMap<>();
      List<String> done = new ArrayList<>();
      String trouble = null;
      for (String word : asked) {
        try {
          if (!done.isEmpty() && clock.instant().isAfter(end)) {
            trouble = "the tracker is slow; not all words were looked for";
            break;
          }
          tracker.find(word, OF_EACH).forEach(entry -> found.putIfAbsent(entry.key(), entry));
          done.add(word);
        } catch (TrackerException e) {
          if (done.isEmpty()) {
            throw e;
          }
          trouble = e.getMessage();
          break;
        }
      }
      return new FoundBody(
          done,
          Ranking.of(title(), rest(), List.copyOf(found.values())).stream()
              .limit(MOST)
              .map(ranked -> EntryBody.of(ranked, linked.contains(ranked.entry().key())))
              .toList(),
          trouble);
    }

    /** What an entry is told to which it is linked. */
    String told(@Nullable String page) {
      GroupLine line = detail.line();
      return Stream.of(
              "Failing tests are linked to this: " + title(),
              line.results()
                  + " results of "
                  + line.tests()
                  + " tests, first in `"
                  + line.first().stream()
                  + "` #"
                  + line.first().number()
                  + ", last in `"
                  + line.last().stream()
                  + "` #"
                  + line.last().number(),
              page == null ? "" : page)
          .filter(one -> !one.isEmpty())
          .collect(Collectors.joining("\n\n"));
    }
  }
}
