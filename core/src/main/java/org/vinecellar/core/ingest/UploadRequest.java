package org.vinecellar.core.ingest;

import java.time.Instant;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.results.Labels;
import org.vinecellar.core.results.Origin;
import org.vinecellar.core.results.Variant;
import org.vinecellar.core.runs.Job;
import org.vinecellar.core.runs.StreamName;

/**
 * What the sender says of an upload.
 *
 * @param target where it goes
 * @param expectParts the run closes when it has so many parts; null to wait for more
 * @param when it was, for results of the past
 * @param replacesPart number of the live part of the run whose place this upload takes; null for
 *     none
 * @param columns what the columns of tables hold
 * @param allowed what is fine though it is mostly a mistake
 * @param job how the job ended that the results are of; null when not told
 */
public record UploadRequest(
    Target target,
    Origin origin,
    Map<String, String> labels,
    @Nullable Integer expectParts,
    When when,
    @Nullable Integer replacesPart,
    CsvColumns columns,
    Allowed allowed,
    @Nullable Job job) {
  /**
   * When the part began.
   *
   * @param at whatever its files tell: their times are moved so that the first is this; null when
   *     the files tell it
   * @param made when it waited to be sent, for files that tell no times; null for now
   */
  public record When(@Nullable Instant at, @Nullable Instant made) {
    /** As its files tell, else now. */
    public static final When TOLD = new When(null, null);

    /** When it was, as its sender says; else when it arrived. */
    public Instant sent(Instant arrived) {
      return at != null ? at : made != null ? made : arrived;
    }
  }

  /**
   * What is mostly a mistake.
   *
   * @param empty an upload without any test
   * @param again files that another run of the stream has
   */
  public record Allowed(boolean empty, boolean again) {
    /** Neither. */
    public static final Allowed NOTHING = new Allowed(false, false);
  }

  /**
   * Where an upload goes.
   *
   * @param stream name of the stream; made when it does not exist
   * @param runKey what all parts of one run share; null for a run of this one upload
   */
  public record Target(int projectId, String stream, @Nullable String runKey, PartKey part) {
    /**
     * Checks every value.
     *
     * @throws CellarException {@code INVALID_VALUE} that names the value and the rule
     */
    public Target {
      var unused = StreamName.checked(stream);
      atMost("run key", runKey, 300);
    }
  }

  /**
   * Which part of the run it is.
   *
   * @param name null for none
   * @param variant of all its tests; what its files tell of a test's variant is added
   * @param paths how the paths of its files tell more of the variants of their tests
   * @param attempt from 1; null when nothing tells it
   */
  public record PartKey(
      @Nullable String name, Variant variant, PathVariants paths, @Nullable Integer attempt) {
    /** Of which nothing is told. */
    public static final PartKey NONE = new PartKey(null, Variant.NONE, null);

    /**
     * Checks every value.
     *
     * @throws CellarException {@code INVALID_VALUE} that names the value and the rule
     */
    public PartKey {
      atMost("part name", name, 300);
      if (attempt != null && (attempt < 1 || attempt > MAX_ATTEMPT)) {
        throw invalid("the attempt is " + attempt + "; it goes from 1 to " + MAX_ATTEMPT);
      }
    }

    /** A part whose paths tell nothing. */
    public PartKey(@Nullable String name, Variant variant, @Nullable Integer attempt) {
      this(name, variant, PathVariants.NONE, attempt);
    }

    /** A part of that name. */
    public static PartKey named(@Nullable String name) {
      return new PartKey(name, Variant.NONE, null);
    }
  }

  /** An upload of which no job is told. */
  public UploadRequest(
      Target target,
      Origin origin,
      Map<String, String> labels,
      @Nullable Integer expectParts,
      @Nullable Instant at,
      @Nullable Integer replacesPart,
      CsvColumns columns,
      boolean allowEmpty) {
    this(
        target,
        origin,
        labels,
        expectParts,
        new When(at, null),
        replacesPart,
        columns,
        new Allowed(allowEmpty, false),
        null);
  }

  /** The most files of one upload. */
  public static final int MAX_FILES = 10_000;

  private static final int MAX_PARTS = 10_000;
  private static final int MAX_ATTEMPT = 1000;

  /**
   * Checks every value.
   *
   * @throws CellarException {@code INVALID_VALUE} that names the value and the rule
   */
  public UploadRequest {
    atMost("commit", origin.commit(), 200);
    atMost("branch", origin.branch(), 300);
    atMost("main branch", origin.mainBranch(), 300);
    atMost("build URL", origin.buildUrl(), 2000);
    String buildUrl = origin.buildUrl();
    if (buildUrl != null && !buildUrl.matches("https?://\\S+")) {
      throw invalid("the build URL “" + shown(buildUrl) + "” does not begin with http or https");
    }
    if (expectParts != null && (expectParts < 1 || expectParts > MAX_PARTS)) {
      throw invalid(
          "the number of parts to expect is " + expectParts + "; it goes from 1 to " + MAX_PARTS);
    }
    labels = Labels.checked(labels);
  }

  private static void atMost(String what, @Nullable String value, int most) {
    if (value != null && (value.isBlank() || value.length() > most)) {
      throw invalid("the " + what + " is empty or longer than " + most + " characters");
    }
    if (value != null && value.chars().anyMatch(c -> c < 0x20)) {
      throw invalid("the " + what + " holds a control character");
    }
  }

  private static String shown(String value) {
    return value.length() > 100 ? value.substring(0, 100) + "…" : value;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
