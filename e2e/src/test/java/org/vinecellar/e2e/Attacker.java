package org.vinecellar.e2e;

import java.io.ByteArrayOutputStream;
import java.io.Closeable;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.net.Socket;
import java.net.SocketTimeoutException;
import java.net.URI;
import java.net.http.HttpClient;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.time.Duration;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletableFuture;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.zip.GZIPOutputStream;

/** Many at once, slow, half or packed: what a portal meets that is not only among friends. */
final class Attacker implements Closeable {
  static final String BOUNDARY = "quay";
  static final String FORM = "multipart/form-data; boundary=" + BOUNDARY;
  static final String METRICS = "collector";
  static final String JSON = "application/json";

  final Portal portal;
  private final ExecutorService threads = Executors.newFixedThreadPool(4);
  private final HttpClient http =
      HttpClient.newBuilder().version(HttpClient.Version.HTTP_1_1).executor(threads).build();
  private final List<Socket> held = new ArrayList<>();

  Attacker(Portal portal) {
    this.portal = portal;
  }

  /** An answer, and how long it took. */
  record Answer(int status, String body, String retryAfter, double seconds) {}

  HttpRequest.Builder request(String path) {
    return HttpRequest.newBuilder(URI.create(portal.url + path)).timeout(Duration.ofMinutes(3));
  }

  HttpRequest.Builder known(String path) {
    return request(path).header("Authorization", "Bearer " + portal.token);
  }

  CompletableFuture<Answer> send(HttpRequest request) {
    long begun = System.nanoTime();
    return http.sendAsync(request, HttpResponse.BodyHandlers.ofString())
        .thenApply(
            answer ->
                new Answer(
                    answer.statusCode(),
                    answer.body(),
                    answer.headers().firstValue("Retry-After").orElse(""),
                    (System.nanoTime() - begun) / 1e9));
  }

  static List<Answer> all(List<CompletableFuture<Answer>> sent) {
    return sent.stream().map(CompletableFuture::join).toList();
  }

  static byte[] form(String stream, byte[] file) {
    ByteArrayOutputStream form = new ByteArrayOutputStream();
    form.writeBytes(
        ("--quay\r\nContent-Disposition: form-data; name=\"stream\"\r\n\r\n"
                + stream
                + "\r\n--quay\r\nContent-Disposition: form-data; name=\"file\"; filename=\"r.xml\"\r\n\r\n")
            .getBytes(StandardCharsets.UTF_8));
    form.writeBytes(file);
    form.writeBytes("\r\n--quay--\r\n".getBytes(StandardCharsets.UTF_8));
    return form.toByteArray();
  }

  static byte[] form(String stream, String file) {
    return form(stream, file.getBytes(StandardCharsets.UTF_8));
  }

  CompletableFuture<Answer> upload(String stream, byte[] file) {
    return send(
        known("/api/v1/projects/main/uploads")
            .header("Content-Type", FORM)
            .POST(HttpRequest.BodyPublishers.ofByteArray(form(stream, file)))
            .build());
  }

  CompletableFuture<Answer> upload(String stream, String file) {
    return upload(stream, file.getBytes(StandardCharsets.UTF_8));
  }

  /** A file of that many tests that pass. */
  static String tests(int count) {
    StringBuilder file = new StringBuilder("<testsuite name='s'>");
    for (int i = 0; i < count; i++) {
      file.append("<testcase name='t").append(i).append("'/>");
    }
    return file.append("</testsuite>").toString();
  }

  CompletableFuture<Answer> signIn(String login, String password) {
    return send(
        request("/api/v1/session")
            .header("Content-Type", JSON)
            .POST(
                HttpRequest.BodyPublishers.ofString(
                    "{\"login\":\"" + login + "\",\"password\":\"" + password + "\"}"))
            .build());
  }

  /** What people do meanwhile: health, reading, signing in. */
  List<Answer> others() {
    return all(
        List.of(
            send(request("/health/ready").build()),
            send(known("/api/v1/projects/main/streams").build()),
            signIn(portal.user, portal.password)));
  }

  /** A connection on which something was sent, and which stays. */
  Socket begin(String text) {
    return begin("127.0.0.1", text);
  }

  /** From an address of this machine. */
  Socket begin(String from, String text) {
    return begin(URI.create(portal.url), from, text);
  }

  Socket begin(URI uri, String from, String text) {
    try {
      // Names under localhost are this machine, though not every resolver knows them.
      String host = uri.getHost().endsWith(".localhost") ? "127.0.0.1" : uri.getHost();
      Socket socket = new Socket();
      held.add(socket);
      // Whoever reads nothing has little taken for them.
      socket.setReceiveBufferSize(16 << 10);
      socket.bind(new InetSocketAddress(InetAddress.getByName(from), 0));
      socket.connect(new InetSocketAddress(InetAddress.getByName(host), uri.getPort()));
      socket.setSoTimeout(60_000);
      socket.getOutputStream().write(text.getBytes(StandardCharsets.UTF_8));
      return socket;
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }

  /** How many are connected, by the portal's own count. */
  int connections() {
    String metrics = portal.send("GET", "/metrics", METRICS).body();
    return metrics
        .lines()
        .filter(line -> line.startsWith("vine_connections"))
        .mapToInt(line -> (int) Double.parseDouble(line.substring(line.lastIndexOf(' ') + 1)))
        .findFirst()
        .orElseThrow();
  }

  static String head(String method, String path, Map<String, String> headers) {
    StringBuilder head = new StringBuilder(method + " " + path + " HTTP/1.1\r\nHost: quay\r\n");
    headers.forEach((name, value) -> head.append(name + ": " + value + "\r\n"));
    return head + "\r\n";
  }

  /** The status of what was answered on a connection. */
  static int status(Socket socket) {
    try {
      byte[] line = socket.getInputStream().readNBytes(12);
      return line.length < 12
          ? 0
          : Integer.parseInt(new String(line, 9, 3, StandardCharsets.US_ASCII));
    } catch (IOException e) {
      return -1;
    }
  }

  /** Whether the portal ends a connection, within a minute, without a word. */
  static boolean isCutOff(Socket socket) {
    try {
      return socket.getInputStream().read() < 0;
    } catch (SocketTimeoutException e) {
      return false;
    } catch (IOException e) {
      return true;
    }
  }

  /** Hangs up wherever it was held. */
  void hangUp() {
    for (Socket socket : held) {
      try {
        socket.close();
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
    held.clear();
  }

  static byte[] packed(String before, String many, int times, String after) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (GZIPOutputStream gzip = new GZIPOutputStream(bytes, 1 << 16)) {
      gzip.write(before.getBytes(StandardCharsets.UTF_8));
      byte[] block =
          many.repeat(Math.max(1, 65_536 / many.length())).getBytes(StandardCharsets.UTF_8);
      long left = (long) many.length() * times;
      while (left > 0) {
        int n = (int) Math.min(left, block.length);
        gzip.write(block, 0, n);
        left -= n;
      }
      gzip.write(after.getBytes(StandardCharsets.UTF_8));
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return bytes.toByteArray();
  }

  @Override
  public void close() {
    hangUp();
    threads.shutdownNow();
  }
}
