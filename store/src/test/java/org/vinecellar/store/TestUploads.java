package org.vinecellar.store;

import java.io.ByteArrayInputStream;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.ingest.Ingest;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.SourceFile;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.results.Origin;

/** Sends short texts as results into a project of its own. */
record TestUploads(int project, Ingest ingest) {
  /** What comes once more is tried again. */
  private static final UploadRequest.PartKey AGAIN = UploadRequest.PartKey.named("tests");

  static TestUploads inNewProject(Stores stores, Instant now) {
    String key = "p" + System.nanoTime();
    return new TestUploads(
        stores.projects().create(key, key, null, now).id(),
        new Ingest(stores.ingest(), ReadLimits.DEFAULT, () -> now));
  }

  /** Into the same project, through another instance. */
  TestUploads through(Stores stores, Instant now) {
    return new TestUploads(project, new Ingest(stores.ingest(), ReadLimits.DEFAULT, () -> now));
  }

  private record Text(String name, String text) implements SourceFile {
    @Override
    public InputStream open() {
      return new ByteArrayInputStream(text.getBytes(StandardCharsets.UTF_8));
    }
  }

  Receipt send(String stream, @Nullable String run, String... texts) {
    return sendWith(stream, run, Map.of(), texts);
  }

  Receipt sendWith(
      String stream, @Nullable String run, Map<String, String> labels, String... texts) {
    return send(stream, run, labels, null, texts);
  }

  /** The whole of what came live. */
  Receipt sendInPlaceOf(int livePart, String stream, String run, String... texts) {
    return send(stream, run, Map.of(), livePart, texts);
  }

  Receipt send(String stream, @Nullable String run, NewBundle bundle, String... texts) {
    return send(stream, run, Map.of(), null, bundle, texts);
  }

  /** What tests send comes with one and the same time. */
  private static final UploadRequest.Allowed ANEW = new UploadRequest.Allowed(false, true);

  private Receipt send(
      String stream,
      @Nullable String run,
      Map<String, String> labels,
      @Nullable Integer replacesPart,
      String... texts) {
    return send(stream, run, labels, replacesPart, null, texts);
  }

  /** Of a part that is told. */
  Receipt sendPart(
      String stream,
      @Nullable String run,
      UploadRequest.PartKey part,
      Map<String, String> labels,
      String... texts) {
    return send(stream, run, part, labels, null, null, texts);
  }

  private Receipt send(
      String stream,
      @Nullable String run,
      Map<String, String> labels,
      @Nullable Integer replacesPart,
      @Nullable NewBundle bundle,
      String... texts) {
    return send(stream, run, AGAIN, labels, replacesPart, bundle, texts);
  }

  private Receipt send(
      String stream,
      @Nullable String run,
      UploadRequest.PartKey part,
      Map<String, String> labels,
      @Nullable Integer replacesPart,
      @Nullable NewBundle bundle,
      String... texts) {
    List<Text> files = new ArrayList<>();
    for (String text : texts) {
      files.add(new Text("f" + files.size() + ".xml", text));
    }
    return ingest.receive(
        new UploadRequest(
            new UploadRequest.Target(project, stream, run, part),
            new Origin("c0ffee", "main", null),
            labels,
            null,
            UploadRequest.When.TOLD,
            replacesPart,
            CsvColumns.NONE,
            ANEW,
            null),
        files,
        List.of(),
        bundle);
  }

  /** A run, or a part of one, that began then. */
  Receipt sendAt(
      Instant started,
      String stream,
      @Nullable String run,
      UploadRequest.PartKey part,
      Origin origin,
      Map<String, String> labels,
      String text) {
    return ingest.receive(
        new UploadRequest(
            new UploadRequest.Target(project, stream, run, part),
            origin,
            labels,
            null,
            new UploadRequest.When(started, null),
            null,
            CsvColumns.NONE,
            ANEW,
            null),
        List.of(new Text("f.xml", text)),
        List.of(),
        null);
  }

  Receipt send(String stream, String text, Map<String, String> beside) {
    return send(stream, null, text, beside);
  }

  /** A run with files beside its one result file. */
  Receipt send(String stream, @Nullable String run, String text, Map<String, String> beside) {
    return ingest.receive(
        new UploadRequest(
            new UploadRequest.Target(project, stream, run, UploadRequest.PartKey.NONE),
            Origin.UNKNOWN,
            Map.of(),
            null,
            UploadRequest.When.TOLD,
            null,
            CsvColumns.NONE,
            ANEW,
            null),
        List.of(new Text("f.xml", text)),
        beside.entrySet().stream().map(e -> new Text(e.getKey(), e.getValue())).toList(),
        null);
  }

  /**
   * As in "a:P b:F", one suite S; P passed, F failed, E errored, S skipped, X set-up failed. What
   * failed and comes again is tried again, as the header says; what passed is another of that name.
   */
  static String suite(String name, String cases) {
    String[] all = cases.isEmpty() ? new String[0] : cases.split(" ");
    Set<String> failed = new HashSet<>();
    int again = 0;
    for (String one : all) {
      String test = one.substring(0, one.indexOf(':'));
      again += failed.contains(test) ? 1 : 0;
      if (one.endsWith("F")) {
        failed.add(test);
      }
    }
    StringBuilder xml = new StringBuilder("<testsuite name='" + name + "'");
    xml.append(again == 0 ? ">" : " tests='" + (all.length - again) + "'>");
    for (String one : all) {
      String test = one.substring(0, one.indexOf(':'));
      xml.append("<testcase name='").append(test).append("' time='1'>");
      xml.append(
          switch (one.charAt(one.length() - 1)) {
            case 'F' -> "<failure message='wrong " + test + "'/>";
            case 'E', 'X' -> "<error message='broken " + test + "'/>";
            case 'S' -> "<skipped/>";
            default -> "";
          });
      xml.append("</testcase>");
    }
    return xml.append("</testsuite>").toString();
  }
}
