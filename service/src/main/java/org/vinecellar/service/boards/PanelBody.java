package org.vinecellar.service.boards;

import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.Panel;
import org.vinecellar.core.boards.PanelKind;
import org.vinecellar.core.boards.Step;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * A panel, as it is written and read.
 *
 * @param title none when left out
 * @param text none when left out
 * @param x column of its left edge, from 0; the grid has twelve
 * @param y row of its upper edge, from 0
 * @param width columns that it takes
 * @param height rows that it takes
 * @param filter of runs; all when left out
 * @param days its period: so many latest ones, today with them; 30 when left out
 * @param step hour, day or week; day when left out
 * @param by what runs are told apart by, up to three of stream, branch and label.KEY
 * @param minimum a pass rate from 0 to 1 that each part of a breakdown must hold; none when left
 *     out
 * @param project whose runs it tells of, by its key; that of the board when left out. Who may not
 *     read that one sees no numbers there
 */
@Schema(name = "Panel")
public record PanelBody(
    @Nullable String title,
    @Nullable String text,
    @Schema(
            enumeration = {
              "outcomes",
              "rate",
              "time",
              "lengths",
              "lost",
              "growth",
              "latest",
              "breakdown",
              "worst",
              "causes",
              "runs",
              "matrix",
              "flaky",
              "slowest",
              "slowing",
              "groups",
              "tickets",
              "explaining",
              "mending",
              "people",
              "text"
            })
        @Nullable String kind,
    @Nullable Integer x,
    @Nullable Integer y,
    @Nullable Integer width,
    @Nullable Integer height,
    @Nullable String filter,
    @Nullable Integer days,
    @Schema(enumeration = {"hour", "day", "week"}) @Nullable String step,
    @Nullable List<@Nullable String> by,
    @Schema(nullable = true) @Nullable Double minimum,
    @Schema(nullable = true) @Nullable String project) {
  private static final int USUAL_DAYS = 30;
  private static final int USUAL_WIDTH = 6;
  private static final int USUAL_HEIGHT = 4;

  static PanelBody of(Panel p) {
    return new PanelBody(
        p.title(),
        p.text(),
        p.kind().word(),
        p.spot().x(),
        p.spot().y(),
        p.spot().width(),
        p.spot().height(),
        p.filter(),
        p.days(),
        p.step().word(),
        p.by().stream().map(Dimension::word).toList(),
        p.minimum(),
        p.project());
  }

  Panel panel() {
    return new Panel(
        text(title),
        text(text),
        kindOf(kind),
        new Panel.Spot(or(x, 0), or(y, 0), or(width, USUAL_WIDTH), or(height, USUAL_HEIGHT)),
        text(filter).strip(),
        or(days, USUAL_DAYS),
        step == null ? Step.DAY : Step.of(step),
        by == null
            ? List.of()
            : by.stream().filter(Objects::nonNull).map(word -> Dimension.of(word)).toList(),
        minimum,
        project == null || project.isBlank() ? null : project.strip());
  }

  private static PanelKind kindOf(@Nullable String word) {
    return PanelKind.ofWord(text(word))
        .orElseThrow(
            () ->
                invalid(
                    "a panel’s kind is “"
                        + text(word)
                        + "”; it can be "
                        + String.join(
                            ", ",
                            Arrays.stream(PanelKind.values()).map(PanelKind::word).toList())));
  }

  private static String text(@Nullable String text) {
    return text == null ? "" : text;
  }

  private static int or(@Nullable Integer number, int usual) {
    return number == null ? usual : number;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
