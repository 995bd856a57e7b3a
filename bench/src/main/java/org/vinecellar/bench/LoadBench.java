package org.vinecellar.bench;

import java.io.IOException;
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
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import java.util.concurrent.ThreadLocalRandom;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * Fifty pipelines push, fifty people read and ten runs come live, all at once for a minute; against
 * the same people on a portal that does nothing else.
 */
final class LoadBench {
  private static final int PIPELINES = 50;
  private static final int PEOPLE = 50;
  private static final int LIVE = 10;
  private static final int SECONDS = 60;
  private static final int TESTS = 100;
  private static final long PUSH_EVERY_MS = 3_000;
  private static final long LOOK_EVERY_MS = 2_000;
  private static final long BATCH_EVERY_MS = 500;
  private static final int RESULTS_A_BATCH = 20;
  private static final Pattern NUMBER = Pattern.compile("\"number\":(\\d+)");
  private static final Pattern LIVE_PART = Pattern.compile("\"live\":\"([^\"]+)\"");
  private static final Pattern RUN = Pattern.compile("\\{\"id\":(\\d+)");

  private final Target target;
  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).build();
  private final AtomicInteger errors = new AtomicInteger();
  private final AtomicInteger later = new AtomicInteger();
  private final AtomicInteger pushed = new AtomicInteger();
  private final AtomicInteger live = new AtomicInteger();

  LoadBench(Target target) {
    this.target = target;
  }

  List<Bench.Row> run() throws Exception {
    for (int i = 0; i < PIPELINES; i++) {
      push(i, 0);
    }
    // The compiler of the service's Java gets to know the way first.
    people(10);
    List<Double> idle = people(SECONDS / 3);
    Bench.progress("the idle portal is measured, now under load");
    int before = pushed.get();
    ExecutorService others = Executors.newFixedThreadPool(PIPELINES + LIVE);
    CountDownLatch going = new CountDownLatch(1);
    List<Future<?>> work = new ArrayList<>();
    for (int i = 0; i < PIPELINES; i++) {
      int pipeline = i;
      work.add(others.submit(() -> pipeline(pipeline, going)));
    }
    for (int i = 0; i < LIVE; i++) {
      int stream = i;
      work.add(others.submit(() -> stream(stream, going)));
    }
    List<Double> loaded = people(SECONDS);
    going.countDown();
    for (Future<?> one : work) {
      one.get();
    }
    others.shutdown();
    int lost = pushed.get() - kept();
    double ratio = Bench.p95(loaded) / Bench.p95(idle);
    return List.of(
        new Bench.Row(
            "load: people read while 50 pipelines push and 10 runs come live, 60 s, -Xmx512m",
            String.format(
                Locale.ROOT,
                "p95 %.0f ms of %d pages; %d uploads of %d tests, %d live batches",
                Bench.p95(loaded) * 1000,
                loaded.size(),
                pushed.get() - before,
                TESTS,
                live.get()),
            String.format(Locale.ROOT, "p95 %.0f ms of an idle portal", Bench.p95(idle) * 1000),
            String.format(Locale.ROOT, "%.2f", ratio),
            "≤ 3",
            ratio <= 3),
        new Bench.Row(
            "load: errors, uploads that were acknowledged and lost",
            errors.get() + " errors, " + lost + " lost",
            later.get() + " asked to come later",
            "",
            "0",
            errors.get() == 0 && lost == 0));
  }

  /** Everybody looks at a page every two seconds; how long each took. */
  private List<Double> people(int seconds) throws Exception {
    ExecutorService threads = Executors.newFixedThreadPool(PEOPLE);
    List<Double> took = Collections.synchronizedList(new ArrayList<>());
    long until = System.nanoTime() + TimeUnit.SECONDS.toNanos(seconds);
    List<Future<?>> people = new ArrayList<>();
    for (int i = 0; i < PEOPLE; i++) {
      int person = i;
      people.add(
          threads.submit(
              () -> {
                pause(ThreadLocalRandom.current().nextLong(LOOK_EVERY_MS));
                for (int n = 0; System.nanoTime() < until; n++) {
                  long begun = System.nanoTime();
                  look(person, n);
                  took.add((System.nanoTime() - begun) / 1e9);
                  pause(LOOK_EVERY_MS - (System.nanoTime() - begun) / 1_000_000);
                }
              }));
    }
    for (Future<?> person : people) {
      person.get();
    }
    threads.shutdown();
    return took;
  }

  private void look(int person, int n) {
    String runs = "runs?limit=30&stream=load/s" + person;
    if (n % 3 == 0) {
      send("GET", "streams?name=load/s" + person, null, null);
      return;
    }
    String list = send("GET", runs, null, null);
    Matcher run = RUN.matcher(list);
    if (n % 3 == 1 && run.find()) {
      send("GET", "runs/" + run.group(1) + "/results", null, null);
    }
  }

  private void pipeline(int pipeline, CountDownLatch ended) {
    pause(ThreadLocalRandom.current().nextLong(PUSH_EVERY_MS));
    for (int n = 1; ended.getCount() > 0; n++) {
      push(pipeline, n);
      pause(PUSH_EVERY_MS);
    }
  }

  /** No run takes as long as another one: the portal would know the file again. */
  private static final int FIRST = 100_000;

  private void push(int pipeline, int n) {
    StringBuilder xml = new StringBuilder("<testsuite name='s" + pipeline + "'>");
    for (int i = 0; i < TESTS; i++) {
      xml.append("<testcase name='t").append(i).append("' time='0.").append(FIRST + n).append("'>");
      xml.append(
          i % 40 == 7 ? "<failure message='wrong'>at quay</failure></testcase>" : "</testcase>");
    }
    String form =
        "--b\r\nContent-Disposition: form-data; name=\"stream\"\r\n\r\nload/s"
            + pipeline
            + "\r\n--b\r\nContent-Disposition: form-data; name=\"commit\"\r\n\r\n"
            + n
            + "\r\n--b\r\nContent-Disposition: form-data; name=\"file\"; filename=\"r.xml\"\r\n\r\n"
            + xml.append("</testsuite>")
            + "\r\n--b--\r\n";
    if (NUMBER.matcher(send("POST", "uploads", "multipart/form-data; boundary=b", form)).find()) {
      pushed.incrementAndGet();
    }
  }

  private void stream(int stream, CountDownLatch ended) {
    String begun =
        send(
            "POST",
            "live",
            "application/json",
            "{\"stream\":\"load/live" + stream + "\",\"run\":\"1\"}");
    Matcher part = LIVE_PART.matcher(begun);
    if (!part.find()) {
      errors.incrementAndGet();
      return;
    }
    for (int n = 1; ended.getCount() > 0; n++) {
      StringBuilder results = new StringBuilder();
      for (int i = 0; i < RESULTS_A_BATCH; i++) {
        results
            .append(i == 0 ? "" : ",")
            .append("{\"suite\":[\"s\"],\"name\":\"t")
            .append(n * RESULTS_A_BATCH + i)
            .append("\",\"attempts\":[{\"outcome\":0,\"us\":1000}]}");
      }
      send(
          "POST",
          "live/" + part.group(1) + "/batches",
          "application/json",
          "{\"batch\":" + n + ",\"results\":[" + results + "]}");
      live.incrementAndGet();
      pause(BATCH_EVERY_MS);
    }
  }

  /** The answer; what is told to come later does. */
  private String send(String method, String path, @Nullable String type, @Nullable String body) {
    HttpRequest.Builder request =
        HttpRequest.newBuilder(URI.create(target.url() + "/api/v1/projects/bench/" + path))
            .timeout(Duration.ofMinutes(2))
            .header("Authorization", "Bearer " + target.token())
            .method(
                method,
                body == null
                    ? HttpRequest.BodyPublishers.noBody()
                    : HttpRequest.BodyPublishers.ofString(body, StandardCharsets.UTF_8));
    if (type != null) {
      request.header("Content-Type", type);
    }
    while (true) {
      try {
        HttpResponse<String> answer =
            http.send(request.build(), HttpResponse.BodyHandlers.ofString());
        if (answer.statusCode() != 429 && answer.statusCode() != 503) {
          if (answer.statusCode() >= 300) {
            errors.incrementAndGet();
            Bench.progress(method + " " + path + ": " + answer.statusCode() + " " + answer.body());
          }
          return answer.body();
        }
        later.incrementAndGet();
        pause(1000 * Long.parseLong(answer.headers().firstValue("Retry-After").orElse("1")));
      } catch (IOException e) {
        errors.incrementAndGet();
        Bench.progress(method + " " + path + ": " + e);
        return "";
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
        return "";
      }
    }
  }

  private int kept() {
    int kept = 0;
    for (int i = 0; i < PIPELINES; i++) {
      Matcher latest = NUMBER.matcher(send("GET", "runs?limit=1&stream=load/s" + i, null, null));
      kept += latest.find() ? Integer.parseInt(latest.group(1)) : 0;
    }
    return kept;
  }

  private static void pause(long ms) {
    try {
      Thread.sleep(Math.max(0, ms));
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }
}
