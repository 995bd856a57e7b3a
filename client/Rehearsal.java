import com.sun.net.httpserver.HttpServer;
import java.io.IOException;
import java.net.InetAddress;
import java.net.InetSocketAddress;
import java.nio.charset.StandardCharsets;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;

/**
 * Has the client push one small file to somebody who says what a portal would, and keeps the classes
 * that it loads in an archive from which it starts quicker: {@code java Rehearsal.java JAR ARCHIVE}.
 * Without the archive it only starts slower, so that nothing fails when it cannot be made.
 */
final class Rehearsal {
  private static final String COUNTS =
      "{'tests':2,'passed':1,'failed':1,'errored':0,'skipped':0,'notReached':0,'retried':0,'setUps':0}";
  private static final String RECEIPT =
      "{'url':'http://127.0.0.1/','stream':'a/b','number':1,'duplicate':false,'open':false,'part':"
          + COUNTS + ",'run':" + COUNTS + ",'changes':{'newFailing':1,'failingAsBefore':0,'fixed':0,"
          + "'passedOnRetry':0,'added':0,'gone':0},'files':[{'file':'a.xml','problems':[]}]}";
  private static final String RUN = "{'id':7,'explained':true}";
  private static final String RESULTS =
      "<testsuite name='S'><testcase name='a'/><testcase name='b'><failure message='c'/>"
          + "</testcase></testsuite>";

  private Rehearsal() {}

  public static void main(String[] args) throws Exception {
    Files.deleteIfExists(Path.of(args[1]));
    try {
      rehearse(args[0], args[1]);
    } catch (IOException | IllegalStateException e) {
      System.err.println("the client will start slower: " + e.getMessage());
    }
  }

  private static void rehearse(String program, String archive) throws Exception {
    HttpServer server =
        HttpServer.create(new InetSocketAddress(InetAddress.getLoopbackAddress(), 0), 0);
    server.createContext(
        "/",
        exchange -> {
          exchange.getRequestBody().readAllBytes();
          boolean asked = exchange.getRequestMethod().equals("GET");
          String path = exchange.getRequestURI().getPath();
          String said = !asked ? RECEIPT : path.endsWith("/runs") ? "[" + RUN + "]" : RUN;
          byte[] answer = said.replace('\'', '"').getBytes(StandardCharsets.UTF_8);
          exchange.getResponseHeaders().add("Content-Type", "application/json");
          exchange.sendResponseHeaders(asked ? 200 : 201, answer.length);
          exchange.getResponseBody().write(answer);
          exchange.close();
        });
    server.start();
    String jar = Path.of(program).toAbsolutePath().toString();
    Path folder = Files.createTempDirectory("vine-rehearsal");
    try {
      Path results = Files.writeString(folder.resolve("a.xml"), RESULTS);
      Path classes = folder.resolve("classes");
      String portal = "http://127.0.0.1:" + server.getAddress().getPort();
      run(
          folder,
          "-Xshare:off",
          "-XX:DumpLoadedClassList=" + classes,
          "-jar",
          jar,
          "push",
          results.toString(),
          "--stream",
          "a/b",
          "--url",
          portal,
          "--token",
          "vine_rehearsal_000000000000000000000000000000000000",
          "--spool",
          folder.resolve("spool").toString());
      run(
          folder,
          "-Xshare:dump",
          "-XX:SharedClassListFile=" + classes,
          "-XX:SharedArchiveFile=" + Path.of(archive).toAbsolutePath(),
          "-Xlog:disable",
          "-cp",
          jar);
    } finally {
      server.stop(0);
      delete(folder);
    }
  }

  private static void run(Path folder, String... words) throws Exception {
    List<String> command = new ArrayList<>();
    command.add(Path.of(System.getProperty("java.home"), "bin", "java").toString());
    command.addAll(List.of("-XX:+UseSerialGC", "-XX:TieredStopAtLevel=1"));
    command.addAll(List.of(words));
    Path said = folder.resolve("said");
    Process process =
        new ProcessBuilder(command)
            .directory(folder.toFile())
            .redirectErrorStream(true)
            .redirectOutput(said.toFile())
            .start();
    if (process.waitFor() != 0) {
      throw new IllegalStateException(Files.readString(said));
    }
  }

  private static void delete(Path folder) throws IOException {
    try (var files = Files.walk(folder)) {
      for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(file);
      }
    }
  }
}
