package org.vinecellar.service.boards;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import jakarta.ws.rs.core.StreamingOutput;
import java.io.BufferedReader;
import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.io.InputStreamReader;
import java.io.OutputStream;
import java.io.PipedInputStream;
import java.io.PipedOutputStream;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Set;
import java.util.TreeSet;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.CountDownLatch;
import java.util.concurrent.Semaphore;
import java.util.concurrent.atomic.AtomicInteger;
import java.util.function.BooleanSupplier;
import java.util.stream.IntStream;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.Timeout;
import org.vinecellar.core.boards.Sheet;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.problem.ProblemBody;

@Timeout(60)
class SheetLinesTest {
  private static final ObjectMapper JSON = new ObjectMapper();
  private final SheetLines lines = lines(Duration.ofMinutes(1));

  private static SheetLines lines(Duration patience) {
    return new SheetLines(
        JSON,
        problem ->
            new ProblemBody(
                "about:blank", "wrong", 400, String.valueOf(problem.getMessage()), null, null),
        patience);
  }

  private static Sheet sheet(int left) {
    return new Sheet(List.of(), List.of(), left, List.of());
  }

  private static Sheet wait(CountDownLatch latch, int left) {
    try {
      latch.await();
    } catch (InterruptedException e) {
      throw new IllegalStateException(e);
    }
    return sheet(left);
  }

  /** Two that take for ever, as it seems, stand first; who reads has all others meanwhile. */
  @Test
  void whatTakesLongKeepsNothingElseBack() throws Exception {
    CountDownLatch slow = new CountDownLatch(1);
    List<SheetLines.Asked> all = new ArrayList<>();
    all.add(new SheetLines.Asked(1, () -> wait(slow, 1)));
    all.add(new SheetLines.Asked(3, () -> wait(slow, 3)));
    for (int panel = 4; panel <= 40; panel++) {
      int left = panel;
      all.add(new SheetLines.Asked(panel, () -> sheet(left)));
    }
    try (PipedInputStream in = new PipedInputStream(100_000);
        OutputStream out = new PipedOutputStream(in);
        BufferedReader reader =
            new BufferedReader(new InputStreamReader(in, StandardCharsets.UTF_8))) {
      CompletableFuture<Void> written = written(all, out);
      assertThat(panels(reader, 37))
          .containsExactlyElementsOf(IntStream.rangeClosed(4, 40).boxed().toList());
      slow.countDown();
      assertThat(panels(reader, 2)).containsExactly(1, 3);
      written.join();
    }
  }

  private static void until(BooleanSupplier so) {
    while (!so.getAsBoolean()) {
      Thread.onSpinWait();
    }
  }

  private CompletableFuture<Void> written(List<SheetLines.Asked> all) {
    return written(all, new ByteArrayOutputStream());
  }

  private CompletableFuture<Void> written(List<SheetLines.Asked> all, OutputStream out) {
    return CompletableFuture.runAsync(
        () -> {
          try {
            lines.of(7, all).write(out);
          } catch (IOException e) {
            throw new IllegalStateException(e);
          }
        },
        work -> new Thread(work).start());
  }

  private static Set<Integer> panels(BufferedReader reader, int count) throws IOException {
    Set<Integer> panels = new TreeSet<>();
    for (int i = 0; i < count; i++) {
      JsonNode line = JSON.readTree(reader.readLine());
      assertThat(line.path("version").asInt()).isEqualTo(7);
      assertThat(line.path("sheet").path("left").asInt()).isEqualTo(line.path("panel").asInt());
      panels.add(line.path("panel").asInt());
    }
    return panels;
  }

  @Test
  void whatCannotBeMadeSaysWhy() throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    List<SheetLines.Asked> all =
        List.of(
            new SheetLines.Asked(
                1,
                () -> {
                  throw new IllegalArgumentException("no such filter");
                }),
            new SheetLines.Asked(
                2,
                () -> {
                  throw new StackOverflowError("too deep");
                }),
            new SheetLines.Asked(3, () -> sheet(3)));
    lines.of(null, all).write(out);
    List<String> told = out.toString(StandardCharsets.UTF_8).lines().sorted().toList();
    assertThat(told).hasSize(3);
    assertThat(JSON.readTree(told.get(0)).path("problem").path("detail").asText())
        .isEqualTo("no such filter");
    assertThat(JSON.readTree(told.get(1)).path("problem").path("detail").asText())
        .isEqualTo("too deep");
    assertThat(JSON.readTree(told.get(2)).path("problem").isNull()).isTrue();
  }

  /** Whoever wants much that takes long gives way to others after each. */
  @Test
  void nobodyTakesAllThereIs() throws Exception {
    Semaphore goOn = new Semaphore(0);
    List<CompletableFuture<Void>> slow = new ArrayList<>();
    for (int i = 0; i < 4; i++) {
      List<SheetLines.Asked> all = new ArrayList<>();
      for (int panel = 1; panel <= 40; panel++) {
        all.add(
            new SheetLines.Asked(
                panel,
                () -> {
                  goOn.acquireUninterruptibly();
                  return sheet(0);
                }));
      }
      slow.add(written(all));
    }
    until(() -> goOn.getQueueLength() == 8 && lines.waiting() == 4);
    CompletableFuture<Void> quick = written(List.of(new SheetLines.Asked(1, () -> sheet(1))));
    until(() -> lines.waiting() == 5);
    // Eight are at it at a time; the slow ones want twenty rounds.
    for (int round = 0; round < 8; round++) {
      goOn.release(8);
      until(() -> goOn.getQueueLength() == 8 && goOn.availablePermits() == 0);
    }
    assertThat(quick).succeedsWithin(Duration.ofSeconds(20));
    goOn.release(1_000);
    slow.forEach(CompletableFuture::join);
  }

  /** Of what is not there in time it is said, of each panel. */
  @Test
  void noAnswerLastsForEver() throws Exception {
    CountDownLatch slow = new CountDownLatch(1);
    List<SheetLines.Asked> all = new ArrayList<>();
    for (int panel = 1; panel <= 40; panel++) {
      all.add(new SheetLines.Asked(panel, () -> wait(slow, 0)));
    }
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    lines(Duration.ZERO).of(1, all).write(out);
    Set<Integer> told = new TreeSet<>();
    for (String line : out.toString(StandardCharsets.UTF_8).lines().toList()) {
      assertThat(JSON.readTree(line).path("problem").path("detail").asText())
          .contains("did not come to this panel within 0 seconds; ask again");
      assertThat(told.add(JSON.readTree(line).path("panel").asInt())).isTrue();
    }
    assertThat(told).hasSize(40);
    slow.countDown();
  }

  /** Readers may be slow; each holds a thread of those that answer everybody. */
  @Test
  void soManyAnswersAtATimeAndNoMore() throws Exception {
    List<StreamingOutput> begun = new ArrayList<>();
    for (int i = 0; i < 12; i++) {
      begun.add(lines.of(1, List.of(new SheetLines.Asked(1, () -> sheet(0)))));
    }
    assertThatThrownBy(() -> lines.of(1, List.of()))
        .isInstanceOf(TryLaterException.class)
        .hasMessage("too many read boards at once; try again in a moment");
    begun.get(0).write(new ByteArrayOutputStream());
    StreamingOutput next = lines.of(1, List.of());
    assertThatThrownBy(() -> lines.of(1, List.of())).isInstanceOf(TryLaterException.class);
    next.write(new ByteArrayOutputStream());
  }

  @Test
  void ofNoneThereIsNothing() throws IOException {
    ByteArrayOutputStream out = new ByteArrayOutputStream();
    lines.of(1, List.of()).write(out);
    assertThat(out.size()).isZero();
  }

  /** Whoever goes away in the middle leaves no work behind that nobody will read. */
  @Test
  void nothingIsMadeForNobody() throws Exception {
    AtomicInteger made = new AtomicInteger();
    CountDownLatch gone = new CountDownLatch(1);
    List<SheetLines.Asked> all = new ArrayList<>();
    all.add(new SheetLines.Asked(1, () -> sheet(1)));
    for (int panel = 2; panel <= 40; panel++) {
      all.add(
          new SheetLines.Asked(
              panel,
              () -> {
                made.incrementAndGet();
                return wait(gone, 0);
              }));
    }
    OutputStream closed =
        new OutputStream() {
          @Override
          public void write(int b) throws IOException {
            throw new IOException("closed");
          }
        };
    assertThatThrownBy(() -> lines.of(1, all).write(closed)).hasMessage("closed");
    gone.countDown();
    CountDownLatch after = new CountDownLatch(1);
    SheetLines.Asked last =
        new SheetLines.Asked(
            1,
            () -> {
              after.countDown();
              return sheet(0);
            });
    lines.of(1, List.of(last)).write(new ByteArrayOutputStream());
    after.await();
    assertThat(made.get()).isLessThanOrEqualTo(3);
  }
}
