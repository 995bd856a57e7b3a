package org.vinecellar.core.ingest;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.results.TestResult;

/** Keeps what an upload hands on, for tests to look at. */
public final class Recording implements ResultSink {
  public final List<TestResult> results = new ArrayList<>();
  public final List<Again> again = new ArrayList<>();

  @Override
  public void first(int ordinal, TestResult result) {
    if (ordinal != results.size()) {
      throw new AssertionError("ordinal " + ordinal + " came after " + results.size() + " results");
    }
    results.add(result);
  }

  @Override
  public void again(Again more) {
    again.add(more);
  }

  /** Reads texts as files of one upload. */
  public UploadReport read(String... texts) {
    return UploadReader.read(
        Arrays.stream(texts).map(t -> source("file", t.getBytes(StandardCharsets.UTF_8))).toList(),
        ReadLimits.DEFAULT,
        this);
  }

  /** Bytes as a file. */
  public static SourceFile source(String name, byte[] bytes) {
    return new SourceFile() {
      @Override
      public String name() {
        return name;
      }

      @Override
      public InputStream open() {
        return new ByteArrayInputStream(bytes);
      }
    };
  }

  /** The files of a directory, by name. */
  public static List<SourceFile> directory(Path directory) {
    try (var files = Files.list(directory)) {
      List<SourceFile> sources = new ArrayList<>();
      for (Path file : files.sorted().toList()) {
        sources.add(source(file.getFileName().toString(), Files.readAllBytes(file)));
      }
      return sources;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
