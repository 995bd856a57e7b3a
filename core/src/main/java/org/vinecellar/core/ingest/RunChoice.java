package org.vinecellar.core.ingest;

import java.time.Duration;
import java.time.Instant;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Origin;

/**
 * Which run a key means. A pipeline may well use one key night after night: then each night is a
 * run of its own, and no part of one gets into another.
 *
 * <ul>
 *   <li>A part of another commit, or that began far from the start of a run, belongs to another
 *       run, unless it names the very build that the run had parts of just before.
 *   <li>A closed run takes a part only shortly after, and from the same job; later, only a further
 *       attempt of the same build. What is of another build begins a run; what may be of the same
 *       is refused.
 * </ul>
 */
public final class RunChoice {
  /** Parts of one run do not begin further apart. */
  public static final Duration APART = Duration.ofHours(12);

  /** A part may come so long after its run was closed. */
  public static final Duration LATE = Duration.ofHours(1);

  private static final int SHOWN = 10;

  private RunChoice() {}

  /**
   * A run that has the key.
   *
   * @param number null as long as no upload to it came to its end
   * @param heard when anything of it came last
   * @param closed null while it is open
   * @param commit null when not told
   * @param built whether one of its parts tells its build
   * @param sameBuild whether one of its parts is of the build that the coming one names
   * @param sameContent whether it has this very content
   */
  public record Known(
      long id,
      @Nullable Integer number,
      Instant started,
      Instant heard,
      @Nullable Instant closed,
      @Nullable String commit,
      boolean built,
      boolean sameBuild,
      boolean sameContent) {}

  /**
   * A part that comes.
   *
   * @param began when it did, as its files or its sender tell; null when not told, or not known yet
   * @param known whether all was asked that tells it
   * @param made when it waited to be sent, should nothing tell when it began; null for no wait
   */
  public record Coming(
      Origin of,
      @Nullable Integer attempt,
      @Nullable Instant began,
      boolean known,
      @Nullable Instant made,
      Instant arrived) {
    /** An upload whose files nobody has read yet. */
    public static Coming unread(UploadRequest request, Instant arrived) {
      return new Coming(
          request.origin(),
          request.target().part().attempt(),
          request.when().at(),
          request.when().at() != null,
          request.when().made(),
          arrived);
    }

    /**
     * The same, when its files have told when they began.
     *
     * @param told null when they tell nothing that can be believed
     */
    public Coming told(@Nullable Instant told) {
      return known ? this : new Coming(of, attempt, told, true, made, arrived);
    }

    /** When it began, as far as anything tells. */
    public Instant when() {
      return began != null ? began : made != null ? made : arrived;
    }
  }

  /**
   * What comes of it.
   *
   * @param run to which the part goes; null to begin one
   * @param refused whether the run that it is meant for takes no more
   * @param why a run is begun though the key had one, or the part is refused; null for no reason
   */
  public record Choice(@Nullable Known run, boolean refused, @Nullable String why) {}

  /** Of all runs of the key, in any order. */
  public static Choice of(List<Known> runs, Coming part) {
    Optional<Known> fits =
        runs.stream()
            .filter(run -> takes(run, part))
            // One that is only reserved may yet become another's.
            .min(
                Comparator.comparing((Known run) -> run.number == null)
                    .thenComparing(run -> away(run, part)));
    if (fits.isPresent()) {
      return new Choice(fits.get(), false, null);
    }
    Optional<Known> meant =
        runs.stream()
            .filter(run -> belongs(run, part) && !ofAnotherBuild(run, part))
            .min(Comparator.comparing(run -> away(run, part)));
    if (meant.isPresent()) {
      return new Choice(meant.get(), true, closed(meant.get(), part));
    }
    Optional<Known> last =
        runs.stream()
            .filter(run -> run.number != null)
            .min(Comparator.comparing(run -> away(run, part)));
    return new Choice(null, false, last.map(run -> difference(run, part)).orElse(null));
  }

  /** Whether a run takes the part. */
  public static boolean takes(Known run, Coming part) {
    if (!belongs(run, part)) {
      return false;
    }
    if (run.closed == null || run.sameContent) {
      return true;
    }
    Integer attempt = part.attempt;
    if (run.sameBuild && attempt != null && attempt > 1) {
      return true;
    }
    boolean late = Duration.between(run.closed, part.arrived).compareTo(LATE) > 0;
    return !late && !ofAnotherBuild(run, part);
  }

  /** Whether the part is of the same night as the run. */
  private static boolean belongs(Known run, Coming part) {
    if (differ(run.commit, part.of.commit())) {
      return false;
    }
    boolean near = away(run, part).compareTo(APART) <= 0;
    // Of an open run that goes on for days, a part that tells no times is one more.
    boolean goesOn =
        run.closed == null
            && part.began == null
            && Duration.between(run.heard, part.arrived).compareTo(APART) <= 0;
    // Whether what is there already is sent again, its times tell: they are not known yet.
    boolean undecided = run.sameContent && part.began == null && !part.known;
    return near || goesOn || undecided || isOfJob(run, part);
  }

  /**
   * Whether the part names a build that the run has parts of, and that build goes on, or is tried
   * again: a pipeline may well tell one page for every night.
   */
  private static boolean isOfJob(Known run, Coming part) {
    Integer attempt = part.attempt;
    Instant sent = part.made == null ? part.arrived : part.made;
    boolean goesOn = Duration.between(run.heard, sent).abs().compareTo(APART) <= 0;
    return run.sameBuild && (goesOn || (attempt != null && attempt > 1));
  }

  /** Builds may have a page for each job, so that only without a commit a page tells them apart. */
  private static boolean ofAnotherBuild(Known run, Coming part) {
    boolean commits = run.commit != null && part.of.commit() != null;
    return !commits && run.built && part.of.buildUrl() != null && !run.sameBuild;
  }

  /** Revisions may be told in short. */
  private static boolean differ(@Nullable String one, @Nullable String other) {
    if (one == null || other == null) {
      return false;
    }
    String a = one.toLowerCase(Locale.ROOT);
    String b = other.toLowerCase(Locale.ROOT);
    boolean cut = Math.min(a.length(), b.length()) >= 7;
    return !a.equals(b) && !(cut && (a.startsWith(b) || b.startsWith(a)));
  }

  private static Duration away(Known run, Coming part) {
    return Duration.between(run.started, part.when()).abs();
  }

  private static String difference(Known run, Coming part) {
    String other = "run #" + run.number + " of the same key ";
    if (differ(run.commit, part.of.commit())) {
      return other
          + "is of commit "
          + shown(Objects.requireNonNull(run.commit))
          + ", this of "
          + shown(Objects.requireNonNull(part.of.commit()));
    }
    if (away(run, part).compareTo(APART) > 0) {
      return other
          + "began "
          + span(away(run, part))
          + (run.started.isAfter(part.when()) ? " later" : " earlier");
    }
    return other + "is closed, and of another build";
  }

  private static String closed(Known run, Coming part) {
    Instant closed = Objects.requireNonNull(run.closed);
    return "run #"
        + run.number
        + " of this key was closed "
        + span(Duration.between(closed, part.arrived))
        + " ago and takes no more parts. Nothing was kept. If this is another run, give it a key of"
        + " its own (--run KEY); a later try of the same build is taken with --attempt N";
  }

  private static String span(Duration time) {
    long minutes = Math.max(1, time.toMinutes());
    return minutes < 90
        ? minutes + " min"
        : minutes < 48 * 60 ? (minutes + 30) / 60 + " h" : (minutes + 720) / 1440 + " days";
  }

  private static String shown(String commit) {
    return commit.length() > SHOWN ? commit.substring(0, SHOWN) : commit;
  }
}
