package org.vinecellar.core.ingest;

import java.util.List;
import java.util.Map;
import java.util.Set;
import org.vinecellar.core.results.Counts;

/**
 * What an upload held.
 *
 * @param files in the order they were given
 * @param properties of the files as wholes; the first value of each name
 * @param dated the files, by number from 0, whose times tell them from every other run's
 * @param beside what stands in no file: that the job failed, though nothing in its files did
 */
public record UploadReport(
    List<FileReport> files, Map<String, String> properties, Set<Integer> dated, Counts beside) {
  /** Copies the collections. */
  public UploadReport {
    files = List.copyOf(files);
    dated = Set.copyOf(dated);
    properties = Map.copyOf(properties);
  }

  /** All files together. */
  public Counts total() {
    return files.stream().map(FileReport::counts).reduce(beside, Counts::plus);
  }

  /** Whether one of the files ends before its test run did. */
  public boolean brokenOff() {
    return files.stream().anyMatch(FileReport::brokenOff);
  }

  /** The files that could not be read. */
  public List<FileReport> unreadable() {
    return files.stream().filter(file -> file.error() != null).toList();
  }
}
