package org.vinecellar.bench;

import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Locale;
import java.util.concurrent.CompletableFuture;

/** How long health, reading and signing in take while four large uploads are taken in. */
final class BesideBench {
  private static final int UPLOADS = 4;
  private static final int ROUNDS = 2;
  private static final int MEGABYTES = 50;
  private static final int IDLE_ROUNDS = 40;
  private static final long PAUSE_MS = 50;

  private final Target target;
  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();

  BesideBench(Target target) {
    this.target = target;
  }

  /** Something that people do, and how long it took, in seconds. */
  private record Deed(String what, HttpRequest request, List<Double> idle, List<Double> beside) {
    Deed(String what, HttpRequest request) {
      this(what, request, new ArrayList<>(), new ArrayList<>());
    }

    Bench.Row row(double seconds) {
      return new Bench.Row(
          what + " beside " + UPLOADS + " uploads of " + MEGABYTES + " MB at a time",
          String.format(
              Locale.ROOT,
              "p95 %.0f ms, at most %.0f ms, of %d in %.0f s",
              1000 * Bench.p95(beside),
              1000 * Collections.max(beside),
              beside.size(),
              seconds),
          String.format(Locale.ROOT, "p95 %.0f ms of an idle portal", 1000 * Bench.p95(idle)),
          String.format(Locale.ROOT, "%.2f", Bench.p95(beside) / Bench.p95(idle)),
          "",
          true);
    }
  }

  List<Bench.Row> run() throws Exception {
    List<Deed> deeds =
        List.of(
            new Deed("health", request("/health/ready").build()),
            new Deed("reading", request("/api/v1/projects/bench/streams").build()),
            new Deed("signing in", signIn()));
    for (int i = 0; i < 2 * IDLE_ROUNDS; i++) {
      if (i == IDLE_ROUNDS) {
        deeds.forEach(deed -> deed.idle().clear());
      }
      for (Deed deed : deeds) {
        deed.idle().add(seconds(deed));
      }
      Thread.sleep(PAUSE_MS);
    }
    byte[] file = file();
    long begun = System.nanoTime();
    List<CompletableFuture<Void>> uploads = new ArrayList<>();
    for (int i = 0; i < UPLOADS; i++) {
      uploads.add(upload(file, i, ROUNDS));
    }
    CompletableFuture<Void> all =
        CompletableFuture.allOf(uploads.toArray(CompletableFuture[]::new));
    while (!all.isDone()) {
      for (Deed deed : deeds) {
        deed.beside().add(seconds(deed));
      }
      Thread.sleep(PAUSE_MS);
    }
    all.join();
    double took = (System.nanoTime() - begun) / 1e9;
    return deeds.stream().map(deed -> deed.row(took)).toList();
  }

  private double seconds(Deed deed) throws Exception {
    long begun = System.nanoTime();
    int status = http.send(deed.request(), HttpResponse.BodyHandlers.discarding()).statusCode();
    if (status != 200) {
      throw new IllegalStateException(deed.what() + " answered " + status);
    }
    return (System.nanoTime() - begun) / 1e9;
  }

  private HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create(target.url() + path))
        .timeout(Duration.ofMinutes(5))
        .header("Authorization", "Bearer " + target.token());
  }

  private HttpRequest signIn() {
    return HttpRequest.newBuilder(URI.create(target.url() + "/api/v1/session"))
        .header("Content-Type", "application/json")
        .POST(
            HttpRequest.BodyPublishers.ofString(
                "{\"login\":\"admin\",\"password\":\"" + target.adminPassword() + "\"}"))
        .build();
  }

  private CompletableFuture<Void> upload(byte[] file, int number, int rounds) {
    HttpRequest request =
        request("/api/v1/projects/bench/uploads")
            .header("Content-Type", "multipart/form-data; boundary=b")
            .POST(
                HttpRequest.BodyPublishers.ofByteArrays(
                    List.of(
                        bytes(
                            "--b\r\nContent-Disposition: form-data; name=\"stream\"\r\n\r\nbeside/s"
                                + number
                                + "\r\n--b\r\nContent-Disposition: form-data; name=\"run\"\r\n\r\n"
                                + rounds
                                + "\r\n--b\r\nContent-Disposition: form-data; name=\"file\";"
                                + " filename=\"r.xml\"\r\n\r\n"),
                        file,
                        bytes("\r\n--b--\r\n"))))
            .build();
    return http.sendAsync(request, HttpResponse.BodyHandlers.ofString())
        .thenCompose(
            answer -> {
              if (answer.statusCode() != 201) {
                throw new IllegalStateException("an upload answered " + answer.body());
              }
              return rounds == 1
                  ? CompletableFuture.completedFuture(null)
                  : upload(file, number, rounds - 1);
            });
  }

  private static byte[] bytes(String text) {
    return text.getBytes(StandardCharsets.UTF_8);
  }

  /** Results with what they wrote, as the nightly run of a large product has them. */
  private static byte[] file() {
    String output = "the crane lowers its hook and waits for the next box to come\n".repeat(16);
    StringBuilder xml = new StringBuilder("<testsuite name='quay'>");
    for (int i = 0; xml.length() < MEGABYTES << 20; i++) {
      xml.append("<testcase classname='c").append(i / 50).append("' name='t").append(i);
      xml.append("'><system-out>").append(output).append("</system-out></testcase>");
    }
    return bytes(xml.append("</testsuite>").toString());
  }
}
