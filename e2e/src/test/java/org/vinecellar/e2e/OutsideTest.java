package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.io.IOException;
import java.net.Socket;
import java.net.URI;
import java.net.http.HttpRequest;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import java.util.Map;
import java.util.function.BooleanSupplier;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;

/** What stands around a portal: a proxy, whoever collects metrics, a disk that fills up. */
@OnSharedPortal
class OutsideTest {
  private static HttpResponse<String> signIn(Portal portal, String password, String from) {
    return portal.send(
        HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/session"))
            .header("Content-Type", "application/json")
            .header("X-Forwarded-For", from)
            .POST(
                HttpRequest.BodyPublishers.ofString(
                    "{\"login\":\"admin\",\"password\":\"" + password + "\"}"))
            .build());
  }

  @Test
  void behindATrustedProxyAddressesAreRealAndAllIsByHttps() {
    try (Portal portal =
        Portal.start(
            Map.of(
                "VINE_TRUSTED_PROXIES",
                "127.0.0.1",
                "VINE_PUBLIC_URL",
                "https://vine.skerrow.example",
                "VINE_METRICS_TOKEN",
                "collector"))) {
      for (int i = 0; i < 7; i++) {
        signIn(portal, "wrong " + i, "192.0.2.1");
      }
      assertThat(signIn(portal, portal.password, "192.0.2.1").statusCode())
          .as("from where it was guessed")
          .isEqualTo(429);
      HttpResponse<String> elsewhere = signIn(portal, portal.password, "192.0.2.2");
      assertThat(elsewhere.statusCode()).as("the right one from elsewhere").isEqualTo(200);
      String cookie = elsewhere.headers().firstValue("Set-Cookie").orElseThrow();
      assertThat(cookie)
          .startsWith("__Host-vine_session=")
          .contains("Secure")
          .containsIgnoringCase("Path=/")
          .doesNotContainIgnoringCase("Domain");
      String session = cookie.substring(0, cookie.indexOf(';'));
      assertThat(withCookie(portal, session)).isEqualTo(200);
      assertThat(withCookie(portal, session.replace("__Host-", "")))
          .as("a name that another host of the domain could set")
          .isEqualTo(401);
      assertThat(elsewhere.headers().firstValue("Strict-Transport-Security")).isPresent();

      Attacker attacker = new Attacker(portal);
      String xml = "<testsuite name='s'><testcase name='a'/></testsuite>";
      assertThat(Portal.json(attacker.upload("proxy/a", xml).join().body()).path("url").asText())
          .startsWith("https://vine.skerrow.example/main/runs/");
      attacker.close();

      assertThat(portal.send("GET", "/metrics", null).statusCode()).isEqualTo(401);
      assertThat(portal.send("GET", "/metrics", portal.token).statusCode()).isEqualTo(401);
      HttpResponse<String> metrics = portal.send("GET", "/metrics", "collector");
      assertThat(metrics.body())
          .contains("vine_uploads_waiting", "vine_refusals_total", "vine_disk_full")
          .doesNotContain("proxy/a");
    }
  }

  private static int withCookie(Portal portal, String cookie) {
    return portal
        .send(
            HttpRequest.newBuilder(URI.create(portal.url + "/api/v1/session"))
                .header("Cookie", cookie)
                .build())
        .statusCode();
  }

  @Test
  void nobodyElseIsBelieved() throws IOException {
    Portal portal = Portal.shared();
    Path work = Files.createTempDirectory("outside");
    Files.writeString(
        work.resolve("r.xml"), "<testsuite name='s'><testcase name='a'/></testsuite>");
    Shell.Result pushed =
        portal.curl(
            work,
            "-H",
            "Host: evil.example",
            "-H",
            "X-Forwarded-Host: evil.example",
            "-H",
            "X-Forwarded-Proto: https",
            "-F",
            "stream=outside/a",
            "-F",
            "file=@r.xml",
            portal.url + "/api/v1/projects/main/uploads");
    assertThat(pushed.out()).doesNotContain("evil").contains(portal.url);
    assertThat(portal.send("GET", "/", null).headers().firstValue("Strict-Transport-Security"))
        .isEmpty();
    URI uri = URI.create(portal.url);
    try (Socket socket = new Socket(uri.getHost(), uri.getPort())) {
      socket
          .getOutputStream()
          .write(
              ("GET /api/v1/projects/main/runs?stream=outside/a&limit=1 HTTP/1.1\r\n"
                      + "Host: evil.example\r\nConnection: close\r\nAuthorization: Bearer "
                      + portal.token
                      + "\r\n\r\n")
                  .getBytes(StandardCharsets.US_ASCII));
      String answer = new String(socket.getInputStream().readAllBytes(), StandardCharsets.UTF_8);
      assertThat(answer).startsWith("HTTP/1.1 200").doesNotContain("evil");
    }
  }

  private interface OnDisk {
    void test(Path disk) throws Exception;
  }

  /** On a small disk of its own: a tmpfs, which only root can make. */
  private static void onDisk(String size, OnDisk work) throws Exception {
    Path disk = Path.of("/tmp", "vine-e2e-disk-" + System.nanoTime());
    Files.createDirectory(disk);
    boolean mounted =
        run("mount", "-t", "tmpfs", "-o", "size=" + size + ",mode=755", "tmpfs", disk.toString());
    Assumptions.assumeTrue(mounted, "only root can make a disk");
    try {
      work.test(disk);
    } finally {
      run("umount", "-l", disk.toString());
      Files.delete(disk);
    }
  }

  private static Path fill(Path disk, long leave) throws Exception {
    Path ballast = disk.resolve("ballast");
    long free = Files.getFileStore(disk).getUsableSpace();
    assertThat(run("fallocate", "-l", Long.toString(free - leave), ballast.toString())).isTrue();
    return ballast;
  }

  @Test
  void aFullDiskStopsUploadsAndNothingElse() throws Exception {
    onDisk(
        "500m",
        disk -> {
          try (Portal portal =
                  Portal.start(disk.resolve("data"), Map.of("VINE_DATA_RESERVE_MEGABYTES", "120"));
              Attacker attacker = new Attacker(portal)) {
            assertThat(attacker.upload("disk/a", suite("a")).join().status()).isEqualTo(201);
            Path ballast = fill(disk, 100L << 20);
            Attacker.Answer refused = attacker.upload("disk/a", suite("b")).join();
            assertThat(refused.status()).as(refused.body()).isEqualTo(503);
            assertThat(refused.body())
                .contains("disk-full", "nothing is taken in until there is more room");
            assertThat(refused.retryAfter()).isEqualTo("60");
            assertUploadsAreRefusedAndReadingGoesOn(portal);
            assertThat(attacker.others()).allSatisfy(a -> assertThat(a.status()).isEqualTo(200));

            Files.delete(ballast);
            assertThat(attacker.upload("disk/a", suite("b")).join().status()).isEqualTo(201);
          }
        });
  }

  /** The service cannot know of it before: the reserve is off. PostgreSQL's log lies elsewhere. */
  @Test
  void whatTheDatabaseSaysOfItsDiskIsSaid() throws Exception {
    onDisk(
        "300m",
        disk -> {
          Path data = disk.resolve("data");
          Path log = Path.of("/tmp", "vine-e2e-wal-" + System.nanoTime());
          Path spool = Path.of("/tmp", "vine-e2e-spool-" + System.nanoTime());
          Map<String, String> settings =
              Map.of("VINE_DATA_RESERVE_MEGABYTES", "0", "VINE_DATA_DIR", spool.toString());
          try (Portal portal = Portal.start(data, settings);
              Attacker attacker = new Attacker(portal)) {
            assertThat(attacker.upload("disk/a", suite("a")).join().status()).isEqualTo(201);
            portal.stop();
            Path there = data.resolve("postgres/pg_wal");
            assertThat(run("cp", "-a", there.toString(), log.toString())).isTrue();
            assertThat(run("rm", "-r", there.toString())).isTrue();
            assertThat(run("ln", "-s", log.toString(), there.toString())).isTrue();
            portal.restart(settings);

            Path ballast = fill(disk, 2 << 20);
            // Little to send, and much to keep: each test is a row of its own.
            Attacker.Answer refused = attacker.upload("disk/a", Attacker.tests(20_000)).join();
            assertThat(refused.status()).as(refused.body()).isEqualTo(503);
            assertThat(refused.body()).contains("disk-full", "the disk of the database is full");
            assertThat(refused.retryAfter()).isEqualTo("60");
            assertUploadsAreRefusedAndReadingGoesOn(portal);
            // To come in needs a line of its own; who has no room for it says so.
            assertThat(attacker.signIn(portal.user, portal.password).join())
                .matches(a -> a.status() == 200 || a.body().contains("disk-full"));
            assertThat(portal.get("/api/v1/projects/main/runs?stream=disk/a")).hasSize(1);

            Files.delete(ballast);
            await(() -> attacker.upload("disk/a", suite("b")).join().status() == 201);
            assertThat(portal.get("/api/v1/projects/main/runs?stream=disk/a")).hasSize(2);
          } finally {
            run("rm", "-r", log.toString(), spool.toString());
          }
        });
  }

  private static String suite(String name) {
    return "<testsuite name='s'><testcase name='" + name + "'/></testsuite>";
  }

  private static void assertUploadsAreRefusedAndReadingGoesOn(Portal portal) {
    assertThat(portal.send("GET", "/api/v1/projects/main/streams", portal.token).statusCode())
        .isEqualTo(200);
    await(() -> portal.get("/health/ready").toString().contains("\"uploads\":\"refused\""));
    assertThat(portal.get("/health/ready").path("status").asText()).isEqualTo("UP");
  }

  private static void await(BooleanSupplier wanted) {
    long until = System.nanoTime() + 60_000_000_000L;
    while (!wanted.getAsBoolean()) {
      assertThat(System.nanoTime()).as("in time").isLessThan(until);
      try {
        Thread.sleep(200);
      } catch (InterruptedException e) {
        Thread.currentThread().interrupt();
      }
    }
  }

  private static boolean run(String... command) throws Exception {
    return new ProcessBuilder(List.of(command)).start().waitFor() == 0;
  }
}
