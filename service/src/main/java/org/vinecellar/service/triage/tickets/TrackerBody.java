package org.vinecellar.service.triage.tickets;

import java.time.Instant;
import java.util.List;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.tickets.TicketStore.Kept;
import org.vinecellar.core.triage.tickets.TrackerSettings;

/**
 * How a tracker is spoken to. In URLs and bodies, names in braces stand for values.
 *
 * @param name what people call it
 * @param find URL that finds entries: {text}, and perhaps {most}
 * @param read URL of one entry: {key}
 * @param page URL where people look at one: {key}; empty when there is none
 * @param create URL that makes one, by POST; empty when it may not be done
 * @param createBody JSON: {title}, {text}
 * @param comment URL that takes a comment, by POST: {key}; empty when it may not be done
 * @param commentBody JSON: {text}, {key}
 * @param header of every call, as Authorization: Bearer {secret}; empty for none
 * @param listAt JSON pointer (RFC 6901) to the list in what was found; empty for the top
 * @param entryAt to the entry in what was read or made; empty for the top
 * @param keyAt to the key in an entry
 * @param titleAt to the title in an entry
 * @param textAt to the description in an entry; empty when it has none
 * @param stateAt to the state in an entry
 * @param closedAtAt to when it was closed, in ISO 8601; empty when that is not told
 * @param closed states in which nobody has to do anything any more
 */
@Schema(name = "TrackerSettings")
public record TrackerBody(
    @Nullable String name,
    @Nullable String find,
    @Nullable String read,
    @Schema(nullable = true) @Nullable String page,
    @Schema(nullable = true) @Nullable String create,
    @Schema(nullable = true) @Nullable String createBody,
    @Schema(nullable = true) @Nullable String comment,
    @Schema(nullable = true) @Nullable String commentBody,
    @Schema(nullable = true) @Nullable String header,
    @Schema(nullable = true) @Nullable String listAt,
    @Schema(nullable = true) @Nullable String entryAt,
    @Nullable String keyAt,
    @Nullable String titleAt,
    @Schema(nullable = true) @Nullable String textAt,
    @Nullable String stateAt,
    @Schema(nullable = true) @Nullable String closedAtAt,
    @Nullable List<@Nullable String> closed) {
  static TrackerBody of(TrackerSettings one) {
    return new TrackerBody(
        one.name(),
        one.find(),
        one.read(),
        one.page(),
        one.create(),
        one.createBody(),
        one.comment(),
        one.commentBody(),
        one.header(),
        one.where().list(),
        one.where().entry(),
        one.where().key(),
        one.where().title(),
        one.where().text(),
        one.where().state(),
        one.where().closedAt(),
        List.copyOf(one.closed()));
  }

  TrackerSettings settings() {
    return new TrackerSettings(
            text(name),
            text(find),
            text(read),
            text(page),
            text(create),
            text(createBody),
            text(comment),
            text(commentBody),
            text(header),
            new TrackerSettings.Where(
                text(listAt),
                text(entryAt),
                text(keyAt),
                text(titleAt),
                text(textAt),
                text(stateAt),
                text(closedAtAt)),
            closed == null
                ? List.of()
                : closed.stream().filter(Objects::nonNull).map(TrackerBody::text).toList())
        .checked();
  }

  private static String text(@Nullable String text) {
    return text == null ? "" : text.replace("\0", "").replace('\n', ' ').strip();
  }

  static TrackerBody there(@Nullable TrackerBody body) {
    if (body == null) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "say how the tracker is spoken to, as JSON: settings");
    }
    return body;
  }

  /**
   * A tracker as it is kept; its secret is told to nobody.
   *
   * @param settings null when there is none, or for who may not manage the project
   * @param name null when there is none
   * @param version 0 when there is none
   * @param allowed whether the operator lets the portal call it
   * @param trouble why it could not be asked the last time; null when it could
   * @param troubleAt since when
   */
  @Schema(name = "Tracker")
  public record KeptBody(
      @Schema(nullable = true) @Nullable String name,
      @Schema(nullable = true) @Nullable TrackerBody settings,
      int version,
      boolean hasSecret,
      boolean allowed,
      boolean canCreate,
      boolean canComment,
      @Schema(nullable = true) @Nullable Instant changedAt,
      @Schema(nullable = true) @Nullable String changedBy,
      @Schema(nullable = true) @Nullable String trouble,
      @Schema(nullable = true) @Nullable Instant troubleAt) {
    static final KeptBody NONE =
        new KeptBody(null, null, 0, false, false, false, false, null, null, null, null);

    static KeptBody of(Kept kept, boolean allowed, boolean whole) {
      return new KeptBody(
          kept.settings().name(),
          whole ? TrackerBody.of(kept.settings()) : null,
          kept.version(),
          kept.secret() != null,
          allowed,
          kept.settings().canCreate(),
          kept.settings().canComment(),
          kept.changedAt(),
          kept.changedBy(),
          kept.trouble(),
          kept.troubleAt());
    }
  }

  /**
   * A tracker as it shall be.
   *
   * @param version that was seen; 0 for none
   * @param secret null for the one that it has
   */
  @Schema(name = "NewTracker")
  public record SaidBody(
      @Nullable Integer version,
      @Schema(nullable = true) @Nullable String secret,
      @Nullable TrackerBody settings) {}

  /**
   * Settings that shall be tried.
   *
   * @param secret null for the one that is kept, if that is for the same host
   * @param text that is looked for
   */
  @Schema(name = "NewTrackerTrial")
  public record TrialBody(
      @Schema(nullable = true) @Nullable String secret,
      @Nullable TrackerBody settings,
      @Nullable String text) {}
}
