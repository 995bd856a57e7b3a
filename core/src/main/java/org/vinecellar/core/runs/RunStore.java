package org.vinecellar.core.runs;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentId;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.core.results.ResultId;

/** Finds what was kept. Everything is of one project; reserved runs are never found. */
public interface RunStore {
  /** The project's streams that have a run, by name. */
  List<StreamSummary> streams(int projectId);

  /** One stream; empty when it has no run. */
  Optional<StreamSummary> stream(int projectId, String name);

  /** Empty when there is no such stream. */
  Optional<StreamSettings> settings(int projectId, String stream);

  /** False when there is no such stream. */
  boolean setSettings(int projectId, String stream, StreamSettings settings, Instant now);

  /** A page of runs; what takes too long to look through is given up with a problem. */
  List<RunSummary> runs(int projectId, RunQuery query);

  /** A page of tests that files told of; given up like runs. */
  List<TestRow> tests(int projectId, TestQuery query);

  Optional<RunSummary> run(int projectId, String stream, int number);

  Optional<RunSummary> run(int projectId, long runId);

  /** In the order they arrived. */
  List<Part> parts(int projectId, long runId);

  /**
   * Compares a run with another one of the project, whichever that is.
   *
   * @param limit of the differences that are listed; all are counted
   */
  Comparison compare(int projectId, long runId, long with, int limit);

  /** A page of results of a run; given up like runs. */
  List<ResultRow> results(int projectId, long runId, ResultQuery query);

  /** A page of results over all runs. */
  FoundPage find(int projectId, FindQuery query);

  /**
   * How many there are.
   *
   * @param thing runs, results over all runs, or tests
   * @param filter of them
   */
  FoundPage.Count count(int projectId, Thing thing, Criterion filter);

  /**
   * Tests that the previous run had and this one has not, by name; at most {@code limit}.
   *
   * @param filter of tests
   */
  List<KeptTest> gone(int projectId, long runId, Criterion filter, int limit);

  /**
   * Values of an attribute that there are, in alphabetical order: of streams and tags any, of
   * labels, branches, commits and parts those of the latest runs, of suites and names any. Of
   * others none.
   *
   * @param key of a keyed attribute; null for any
   * @param begun how they begin, whatever the case
   */
  List<String> values(
      int projectId, Attribute attribute, @Nullable String key, String begun, int limit);

  /** Keys of a keyed attribute that there are, and that begin so. */
  List<String> keys(int projectId, Attribute attribute, String begun, int limit);

  Optional<ResultDetail> result(int projectId, RunSummary run, ResultId id);

  /**
   * Suites directly inside another: those with failures first, then by name.
   *
   * @param parentId null for the outermost
   * @param filter only suites with such results are found, and only these are counted
   */
  List<SuiteNode> suites(int projectId, long runId, @Nullable Long parentId, Criterion filter);

  /** A file of a part as it came, packed with gzip; empty for no such file. */
  Optional<Content> raw(int projectId, long runId, int part, int file);

  Optional<KeptAttachment> attachment(int projectId, long runId, AttachmentId id);

  /** The content of an attachment; empty when it was not kept. */
  Optional<Content> content(int projectId, long runId, AttachmentId id);
}
