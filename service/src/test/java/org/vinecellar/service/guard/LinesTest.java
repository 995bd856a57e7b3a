package org.vinecellar.service.guard;

import static org.assertj.core.api.Assertions.assertThat;

import io.micrometer.core.instrument.simple.SimpleMeterRegistry;
import io.vertx.core.Handler;
import io.vertx.core.Vertx;
import io.vertx.core.http.HttpConnection;
import io.vertx.core.http.HttpServer;
import io.vertx.core.http.HttpServerOptions;
import io.vertx.core.http.HttpServerRequest;
import java.io.IOException;
import java.net.InetAddress;
import java.net.Socket;
import java.net.SocketException;
import java.nio.charset.StandardCharsets;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Random;
import java.util.concurrent.CopyOnWriteArrayList;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.AfterEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.service.config.Configured;

/** Connections to a real server, by whoever asks at once, late, half, or never. */
class LinesTest {
  private static final int MOST = 40;
  private static final String WHOLE = "GET /now HTTP/1.1\r\nHost: quay\r\n\r\n";
  private static final String LATER = "GET /later HTTP/1.1\r\nHost: quay\r\n\r\n";
  private static final String BUSY = "GET /busy HTTP/1.1\r\nHost: quay\r\n\r\n";
  private static final String ANSWER = "HTTP/1.1 200 OK\r\ncontent-length: 3\r\n\r\nnow";
  private static final String HALF = "GET /now HTTP/1.1\r\nHo";

  private final Vertx vertx = Vertx.vertx();
  private final List<HttpServerRequest> held = new CopyOnWriteArrayList<>();
  private final List<Socket> sockets = new ArrayList<>();
  private final Semaphore busy = new Semaphore(0);
  private Lines lines = lines("1H", "1H", 2 * MOST);
  private int port;

  private static Lines lines(String silence, String silenceAfterwards, int ofAddress) {
    SimpleMeterRegistry meters = new SimpleMeterRegistry();
    Map<String, String> settings =
        Map.of(
            "VINE_DOOR_CONNECTIONS",
            "" + MOST,
            "VINE_DOOR_CONNECTIONS_OF_ADDRESS",
            "" + ofAddress,
            "VINE_DOOR_SILENCE",
            silence,
            "VINE_DOOR_SILENCE_AFTERWARDS",
            silenceAfterwards);
    return new Lines(
        Configured.by(settings), new Refusals(InstantSource.system(), meters), meters, false);
  }

  private void listen() throws Exception {
    listen(lines::opened);
  }

  private void listen(Handler<HttpConnection> opened) throws Exception {
    HttpServer server =
        vertx
            .createHttpServer(new HttpServerOptions().setHttp2ClearTextEnabled(false))
            .connectionHandler(opened)
            .requestHandler(this::handle);
    port =
        server
            .listen(0, "127.0.0.1")
            .toCompletionStage()
            .toCompletableFuture()
            .get(20, TimeUnit.SECONDS)
            .actualPort();
  }

  private void sweepOften() {
    vertx.setPeriodic(50, tick -> lines.sweep());
  }

  private void handle(HttpServerRequest request) {
    lines.asked(request);
    if ("/later".equals(request.path())) {
      held.add(request);
    } else if ("/busy".equals(request.path())) {
      held.add(request);
      busy.acquireUninterruptibly();
      request.response().end("now");
    } else {
      request.response().end("now");
    }
  }

  @AfterEach
  void close() throws Exception {
    for (Socket socket : sockets) {
      socket.close();
    }
    vertx.close().toCompletionStage().toCompletableFuture().get(20, TimeUnit.SECONDS);
  }

  private Socket begin(String from, String text) throws IOException {
    Socket socket =
        new Socket(InetAddress.getByName("127.0.0.1"), port, InetAddress.getByName(from), 0);
    socket.setSoTimeout(20_000);
    sockets.add(socket);
    socket.getOutputStream().write(text.getBytes(StandardCharsets.US_ASCII));
    return socket;
  }

  private static boolean isAnswered(Socket socket) throws IOException {
    try {
      byte[] answer = socket.getInputStream().readNBytes(ANSWER.length());
      return new String(answer, StandardCharsets.US_ASCII).equals(ANSWER);
    } catch (SocketException e) {
      return false;
    }
  }

  private static void await(String what, BooleanSupplier reached) throws InterruptedException {
    for (int i = 0; i < 2000; i++) {
      if (reached.getAsBoolean()) {
        return;
      }
      Thread.sleep(10);
    }
    throw new AssertionError(what + " was not reached");
  }

  /** However many are silent: who asks is answered, and who is being served is never cut off. */
  @ParameterizedTest
  @ValueSource(ints = {1, 2, 3, 4})
  void silentCrowdsKeepNobodyOut(int seed) throws Exception {
    listen();
    sweepOften();
    Random random = new Random(seed);
    List<Socket> served = new ArrayList<>();
    List<Socket> silent = new ArrayList<>();
    for (int i = 0; i < 400; i++) {
      String from = "127.0.0." + (2 + random.nextInt(20));
      switch (random.nextInt(8)) {
        case 0 -> assertThat(isAnswered(begin(from, WHOLE))).as("%d of %d", i, seed).isTrue();
        case 1 -> {
          if (served.size() < MOST / 2) {
            served.add(begin(from, LATER));
            await("being served", () -> held.size() == served.size());
          }
        }
        case 2 -> {
          if (!silent.isEmpty()) {
            silent.remove(random.nextInt(silent.size())).close();
          }
        }
        default -> silent.add(begin(from, random.nextBoolean() ? HALF : ""));
      }
    }
    await("the most there may be", () -> lines.size() <= MOST);
    held.forEach(request -> vertx.runOnContext(now -> request.response().end("now")));
    for (Socket socket : served) {
      assertThat(isAnswered(socket)).isTrue();
    }
  }

  /** What was just answered rests only from the next sweep on; who comes before that is let in. */
  @Test
  void whoComesBeforeASweepIsAnswered() throws Exception {
    listen();
    for (int i = 0; i < 2 * MOST; i++) {
      assertThat(isAnswered(begin("127.0.0." + (2 + i % 20), WHOLE))).as("%d", i).isTrue();
    }
    sweepOften();
    await("the most there may be", () -> lines.size() <= MOST);
  }

  /** Those who were chosen and are not gone yet are counted once, however often somebody looks. */
  @Test
  void sweepsAmongManyAtOnceCutNobodyTwice() throws Exception {
    listen(
        connection -> {
          lines.opened(connection);
          lines.sweep();
        });
    for (int i = 0; i < MOST / 2; i++) {
      begin("127.0.0.2", LATER);
    }
    await("being served", () -> held.size() == MOST / 2);
    for (int i = 1; i < MOST / 2; i++) {
      begin("127.0.0.3", HALF);
    }
    Socket loop = begin("127.0.0.4", BUSY);
    await("nothing goes on", () -> held.size() == MOST / 2 + 1);
    for (int i = 0; i < 10; i++) {
      begin("127.0.0.5", HALF);
    }
    Socket newcomer = begin("127.0.0.6", WHOLE);
    Thread.sleep(1200);
    busy.release();
    assertThat(isAnswered(loop)).isTrue();
    assertThat(isAnswered(newcomer)).isTrue();
    await("the most there may be", () -> lines.size() == MOST);
  }

  @Test
  void strangersGiveWayBeforeWhoAskedOnce() throws Exception {
    listen();
    sweepOften();
    Socket known = begin("127.0.0.2", WHOLE);
    assertThat(isAnswered(known)).isTrue();
    for (int i = 1; i < MOST; i++) {
      begin("127.0.0.3", HALF);
    }
    Thread.sleep(1200);
    for (int i = 0; i < MOST / 2; i++) {
      assertThat(isAnswered(begin("127.0.0.4", WHOLE))).as("newcomer %d", i).isTrue();
    }
    known.getOutputStream().write(WHOLE.getBytes(StandardCharsets.US_ASCII));
    assertThat(isAnswered(known)).isTrue();
  }

  @Test
  void oneAddressHasItsShare() throws Exception {
    lines = lines("1H", "1H", 10);
    listen();
    sweepOften();
    for (int i = 0; i < 10; i++) {
      assertThat(isAnswered(begin("127.0.0.2", WHOLE))).isTrue();
    }
    assertThat(isAnswered(begin("127.0.0.2", WHOLE))).as("the eleventh").isFalse();
    assertThat(isAnswered(begin("127.0.0.3", WHOLE))).as("of another").isTrue();
    sockets.get(0).close();
    await("it is gone", () -> lines.size() == 10);
    assertThat(isAnswered(begin("127.0.0.2", WHOLE))).as("in its place").isTrue();
  }

  @Test
  void whoIsSilentIsLetGoAndWhoIsServedIsNot() throws Exception {
    lines = lines("2S", "3S", MOST);
    listen();
    sweepOften();
    Socket served = begin("127.0.0.2", LATER);
    await("being served", () -> held.size() == 1);
    Socket asks = begin("127.0.0.2", "");
    for (int i = 0; i < 8; i++) {
      asks.getOutputStream().write(WHOLE.getBytes(StandardCharsets.US_ASCII));
      assertThat(isAnswered(asks)).as("asked again, %d", i).isTrue();
      Thread.sleep(500);
    }
    begin("127.0.0.2", HALF);
    begin("127.0.0.2", "");
    await("all are there", () -> lines.size() == 4);
    await("all but one are gone", () -> lines.size() == 1);
    HttpServerRequest last = held.get(0);
    vertx.runOnContext(now -> last.response().end("now"));
    assertThat(isAnswered(served)).isTrue();
    await("and that one too", () -> lines.size() == 0);
  }
}
