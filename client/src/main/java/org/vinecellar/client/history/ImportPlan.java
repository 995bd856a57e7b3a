package org.vinecellar.client.history;

import java.nio.file.Path;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.TreeMap;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Which files make which run, and the order in which the runs go: the oldest first. */
public final class ImportPlan {
  /**
   * A file that was found.
   *
   * @param path below the directory, with slashes
   * @param said what the layout read from it
   * @param changed when the file was last written
   */
  public record Found(Path file, String path, Map<String, String> said, Instant changed) {}

  /**
   * A run to send.
   *
   * @param key the same whenever these files are imported, so that nothing comes twice
   */
  public record PlannedRun(String stream, String key, Instant at, List<PlannedPart> parts) {
    /** Copies the list. */
    public PlannedRun {
      parts = List.copyOf(parts);
    }

    /** How many files it has. */
    public int files() {
      return parts.stream().mapToInt(part -> part.files().size()).sum();
    }
  }

  /**
   * A part of a run.
   *
   * @param name null when the layout tells none
   * @param said commit, branch and labels; the latest file that tells one wins
   */
  public record PlannedPart(@Nullable String name, Map<String, String> said, List<Path> files) {
    /** Copies the collections. */
    public PlannedPart {
      said = Map.copyOf(said);
      files = List.copyOf(files);
    }
  }

  private ImportPlan() {}

  /**
   * Sorts files into runs.
   *
   * @param stream of files whose path tells none; null when each must tell its own
   * @throws CellarException {@code INVALID_VALUE} when a file's stream is not known, or its time
   *     cannot be read
   */
  public static List<PlannedRun> of(List<Found> files, @Nullable String stream) {
    Map<String, List<Found>> byRun = new TreeMap<>();
    for (Found found : files) {
      String name = found.said().getOrDefault("stream", stream);
      if (name == null) {
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "nothing tells the stream of "
                + found.path()
                + "; write {stream} into the layout, or give --stream");
      }
      byRun.computeIfAbsent(name + '\0' + runOf(found), k -> new ArrayList<>()).add(found);
    }
    List<PlannedRun> runs = new ArrayList<>();
    byRun.forEach(
        (key, some) -> {
          int end = key.indexOf('\0');
          runs.add(run(key.substring(0, end), key.substring(end + 1), some));
        });
    runs.sort(
        Comparator.comparing(PlannedRun::at)
            .thenComparing(PlannedRun::stream)
            .thenComparing(PlannedRun::key));
    return runs;
  }

  /** What files of one run share: its key, else its time, else the folder that they lie in. */
  private static String runOf(Found found) {
    Map<String, String> said = found.said();
    if (said.containsKey("run")) {
      return Objects.requireNonNull(said.get("run"));
    }
    if (said.containsKey("at")) {
      return "import " + said.get("at");
    }
    int slash = found.path().lastIndexOf('/');
    return "import " + (slash < 0 ? found.path() : found.path().substring(0, slash));
  }

  private static PlannedRun run(String stream, String key, List<Found> files) {
    Map<String, List<Found>> byPart = new LinkedHashMap<>();
    files.stream()
        .sorted(Comparator.comparing(Found::path))
        .forEach(
            found ->
                byPart
                    .computeIfAbsent(found.said().getOrDefault("part", ""), k -> new ArrayList<>())
                    .add(found));
    List<PlannedPart> parts = new ArrayList<>();
    byPart.forEach(
        (name, some) -> {
          Map<String, String> said = new LinkedHashMap<>();
          some.forEach(found -> said.putAll(found.said()));
          parts.add(
              new PlannedPart(
                  name.isEmpty() ? null : name, said, some.stream().map(Found::file).toList()));
        });
    Instant at = files.stream().map(ImportPlan::time).min(Comparator.naturalOrder()).orElseThrow();
    return new PlannedRun(stream, key, at, parts);
  }

  private static Instant time(Found found) {
    String at = found.said().get("at");
    return at == null
        ? found.changed()
        : Times.read(at)
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.INVALID_VALUE,
                        "“"
                            + at
                            + "” in "
                            + found.path()
                            + " is not a time; {at} reads 2026-11-20, 2026-11-20T06-30,"
                            + " 20261120063000Z and the like, and seconds since 1970"));
  }
}
