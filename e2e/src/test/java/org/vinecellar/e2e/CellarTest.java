package org.vinecellar.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Assumptions;
import org.junit.jupiter.api.Test;

/** Starting, stopping, and what can be in the way. */
@OnSharedPortal
class CellarTest {
  @Test
  void aSecondStartFindsTheFirstAndStaleFilesDoNoHarm() throws Exception {
    try (Portal portal = Portal.start()) {
      String data = portal.data.toString();
      assertThat(portal.password).isNotBlank();

      Shell.Result second = Portal.cellar("start", "--detach", "--json", "--data", data);
      assertThat(second.code()).isZero();
      assertThat(Portal.json(second.out()).path("url").asText()).isEqualTo(portal.url);
      assertThat(Portal.json(second.out()).path("password").isNull()).as("shown once").isTrue();
      assertThat(Portal.cellar("status", "--data", data).out())
          .contains("running at " + portal.url);

      String port = portal.url.substring(portal.url.lastIndexOf(':') + 1);
      Shell.Result taken =
          Portal.cellar("start", "--detach", "--port", port, "--data", data + "/other");
      assertThat(taken.code()).isEqualTo(1);
      assertThat(taken.err()).contains("port " + port + " is taken by another program");
      Portal.cellar("stop", "--data", data + "/other");

      assertThat(Portal.cellar("stop", "--data", data).code()).isZero();
      assertThat(Portal.cellar("status", "--data", data).code()).isEqualTo(3);
      // As a crash leaves them: process numbers that belong to somebody else now.
      Files.writeString(
          portal.data.resolve("service.pid"), Long.toString(ProcessHandle.current().pid()));
      portal.restart();
      assertThat(portal.send("GET", "/api/v1/projects/main", portal.token).statusCode())
          .isEqualTo(200);
    }
  }

  @Test
  void wrongWordsAreRefused() {
    assertThat(Portal.cellar("strat").code()).isEqualTo(2);
    assertThat(Portal.cellar("start", "--prot", "1").err()).contains("“--prot” is not understood");
    assertThat(Portal.cellar("start", "--port", "http").err())
        .contains("--port takes a port number");
  }

  /** “Ready” is what readiness says in this moment, not that something was started once. */
  @Test
  void readyIsSaidOnlyOfWhatIsReady() throws Exception {
    try (Portal portal = Portal.start()) {
      String postmaster = Files.readAllLines(portal.data.resolve("postgres/postmaster.pid")).get(0);
      for (String pid : List.of(Long.toString(portal.servicePid()), postmaster)) {
        Shell.run(Path.of("/tmp"), Map.of(), List.of("kill", "-9", pid));
        while (ProcessHandle.of(Long.parseLong(pid)).isPresent()) {
          Thread.sleep(20);
        }
        Shell.Result again = start(portal);
        assertThat(again.code()).as(again.err()).isZero();
        assertThat(portal.send("GET", "/health/ready", null).statusCode()).isEqualTo(200);
        assertThat(portal.send("GET", "/api/v1/projects/main/streams", portal.token).statusCode())
            .isEqualTo(200);
      }
      assertThat(Files.readString(portal.data.resolve("supervisor.log")))
          .contains("the service ended by itself", "the database does not run: starting it");
    }
  }

  @Test
  void theServicesRoleIsWeakAndItsPasswordShowsNowhere() throws Exception {
    Portal portal = Portal.shared();
    String address = Portal.cellar("database", "--data", portal.data.toString()).out().strip();
    String password = Files.readString(portal.data.resolve("db.password")).strip();
    assertThat(address).startsWith("postgresql://vine@127.0.0.1:").doesNotContain(password);
    assertThat(sql(address, "SELECT count(*) FROM run").code()).isZero();
    // Each would be a way from the database to the machine, or to another database.
    for (String way :
        List.of(
            "COPY (SELECT 1) TO PROGRAM 'true'",
            "COPY (SELECT 1) TO '/tmp/vine-out'",
            "SELECT pg_read_file('/etc/passwd')",
            "SELECT lo_import('/etc/passwd')",
            "CREATE ROLE other SUPERUSER",
            "ALTER ROLE vine SUPERUSER",
            "ALTER SYSTEM SET shared_buffers = '1MB'",
            "CREATE DATABASE other",
            "CREATE EXTENSION adminpack")) {
      assertThat(sql(address, way).err())
          .as(way)
          .containsAnyOf("permission denied", "must be superuser");
    }
    // Nobody else on the machine reads it, in a list of processes or in a file.
    Shell.Result processes = Shell.run(portal.data, Map.of(), List.of("ps", "-eo", "args", "ww"));
    assertThat(processes.out()).contains("quarkus-run.jar").doesNotContain(password);
    for (String file :
        List.of("db.password", "db.pass", "db.owner.pass", "supervisor.log", "service.log")) {
      assertThat(
              PosixFilePermissions.toString(
                  Files.getPosixFilePermissions(portal.data.resolve(file))))
          .as(file)
          .isEqualTo("rw-------");
    }
  }

  private static Shell.Result sql(String address, String statement) {
    return Shell.run(Path.of("/tmp"), Map.of(), List.of("psql", address, "-Xqtc", statement));
  }

  @Test
  void aDirectoryForUploadsThatSomebodyElsePreparedIsRefused() throws Exception {
    try (Portal portal = Portal.start()) {
      portal.stop();
      Path spool = portal.data.resolve("service/uploads");
      Path elsewhere = Files.createDirectory(portal.data.resolve("elsewhere"));
      Files.delete(spool.resolve("lock"));
      Files.delete(spool);
      Files.createSymbolicLink(spool, elsewhere);
      assertThat(start(portal).err())
          .contains("the directory for uploads", "it is not a directory");
      Files.delete(spool);

      // What only others could enter until now; and what lies in it goes.
      Files.createDirectory(spool);
      Files.setPosixFilePermissions(spool, PosixFilePermissions.fromString("rwxrwxrwx"));
      Files.writeString(Files.createDirectory(spool.resolve("left")).resolve("r.xml"), "<x/>");
      assertThat(start(portal).code()).isZero();
      assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(spool)))
          .isEqualTo("rwx------");
      assertThat(spool.resolve("left")).doesNotExist();

      portal.stop();
      Shell.Result given =
          Shell.run(portal.data, Map.of(), List.of("chown", "nobody", spool.toString()));
      Assumptions.assumeTrue(given.code() == 0, "only root can give a directory away");
      assertThat(start(portal).err()).contains("it belongs to somebody else");
    }
  }

  private static Shell.Result start(Portal portal) {
    return Portal.cellar(
        "start", "--detach", "--json", "--port", "0", "--data", portal.data.toString());
  }
}
