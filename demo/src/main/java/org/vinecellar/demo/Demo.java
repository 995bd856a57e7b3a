package org.vinecellar.demo;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.LocalTime;
import java.time.ZoneOffset;
import java.time.temporal.ChronoUnit;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import org.vinecellar.client.command.VineCommand;

/**
 * Loads the story into a portal: {@code Demo URL [LAST-DAY [FIRST LAST]]}, all its nights or those
 * of the numbers. The same day, the same data.
 */
public final class Demo {
  private static final String[] REVIEWERS = {"moorings", "fares", "boarding"};

  private final Map<String, String> environment;
  private final Instant lastNight;
  private final Path folder;

  private Demo(String url, String token, Instant lastNight, Path folder) {
    this.environment = Map.of("VINE_URL", url, "VINE_TOKEN", token, "NO_COLOR", "1");
    this.lastNight = lastNight;
    this.folder = folder;
  }

  /**
   * Takes the portal's address, and the token from the environment; ends with 1 when the portal did
   * not take something.
   */
  public static void main(String[] args) throws IOException {
    Instant day =
        args.length > 1
            ? Instant.parse(args[1] + "T00:00:00Z")
            // The night that is over: before five it still is yesterday's.
            : Instant.now().minus(5, ChronoUnit.HOURS).truncatedTo(ChronoUnit.DAYS);
    Instant lastNight = day.atOffset(ZoneOffset.UTC).with(LocalTime.of(1, 30)).toInstant();
    Path folder = Files.createTempDirectory("vine-demo");
    Demo demo = new Demo(args[0], System.getenv("VINE_TOKEN"), lastNight, folder);
    if (args.length > 3) {
      demo.nights(Integer.parseInt(args[2]), Integer.parseInt(args[3]));
    } else {
      demo.nights(1, Story.NIGHTS);
      demo.notes();
      String tracker = System.getenv("VINE_DEMO_TRACKER");
      if (tracker != null) {
        new Tickets(args[0], tracker, lastNight)
            .load(System.getenv("VINE_USER"), System.getenv("VINE_PASSWORD"));
      }
    }
    remove(folder);
  }

  private static void remove(Path folder) throws IOException {
    try (var files = Files.walk(folder)) {
      for (Path file : files.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(file);
      }
    }
  }

  private void nights(int first, int last) throws IOException {
    for (int night = first; night <= last; night++) {
      night(night);
    }
  }

  /** What people wrote since. */
  private void notes() throws IOException {
    vine(
        "describe",
        "booking-api/nightly#20",
        "--text",
        "The **staging database** was down from 01:10 until 05:40: its disk was full.\n\n"
            + "- nothing of this night is the tests' fault\n- the disk is watched since",
        "--label",
        "cause=staging",
        "--tag",
        "outage");
    vine(
        "describe",
        "booking-api/nightly#29",
        "--result",
        "1-0",
        "--text",
        "Rounds half a cent up, as the harbour authority asks for.\n\n"
            + "| fare | paid |\n|---|---|\n| 12.495 | 12.50 |\n| 12.494 | 12.49 |",
        "--label",
        "owner=fares",
        "--tag",
        "money");
    vine(
        "overrule",
        "booking-api/nightly#29",
        "1-0",
        "--as",
        "skipped",
        "--reason",
        "The old rule was in force that night; the test was a day early");
  }

  private void vine(String... words) throws IOException {
    if (VineCommand.run(words, System.out, System.err, environment) != 0) {
      throw new IOException("the portal refused: vine " + String.join(" ", words));
    }
  }

  private void night(int night) throws IOException {
    Instant at = lastNight.minus(Story.NIGHTS - night, ChronoUnit.DAYS);
    Map<String, String> jvm = Map.of("java.version", "21.0.4", "os.name", "Linux");
    send(
        "booking-api/nightly",
        night,
        at,
        jvm,
        Story.booking("booking-api/nightly", Catalog.booking(), night),
        "moorings",
        List.of());
    change(night, at.minus(6, ChronoUnit.HOURS), jvm);
    send(
        "quayside-kiosk/browser",
        night,
        at.plus(40, ChronoUnit.MINUTES),
        Map.of("browser", "chromium 128", "kiosk", "quayside-3"),
        Story.kiosk("quayside-kiosk/browser", night),
        "boarding",
        List.of());
    send(
        "timetable-rules/scenarios",
        night,
        at.plus(55, ChronoUnit.MINUTES),
        Map.of(),
        Story.timetable("timetable-rules/scenarios", night),
        "moorings",
        List.of());
    if (night % Soak.EVERY == 0) {
      soak(night, at.plus(70, ChronoUnit.MINUTES));
    }
    for (String device : new String[] {"phone", "tablet"}) {
      send(
          "deckhand-app/device",
          night,
          at.plus(80, ChronoUnit.MINUTES),
          Map.of("device", device),
          Story.device("deckhand-app/device", device, night),
          "boarding",
          List.of(
              "--run",
              "device-" + night,
              "--part",
              device,
              "--variant",
              "device=" + device,
              "--expect-parts",
              "2"));
    }
    send(
        "fare-tables/properties",
        night,
        at.plus(95, ChronoUnit.MINUTES),
        Map.of(),
        Story.fareTables("fare-tables/properties", night),
        "fares",
        List.of());
  }

  /** A review each day, on a branch of its own. */
  private void change(int night, Instant at, Map<String, String> jvm) throws IOException {
    String team = REVIEWERS[night % REVIEWERS.length];
    send(
        "booking-api/change",
        night,
        at,
        jvm,
        Story.booking("booking-api/change", Catalog.bookingChange(), night),
        team,
        List.of(
            "--label", "change=" + (400 + night), "--branch", team + "/change-" + (400 + night)));
  }

  /** Written scenarios come with their steps; all else as JUnit-style XML. */
  static boolean isScenarios(String stream) {
    return stream.endsWith("/scenarios");
  }

  static String fileName(String stream) {
    String name = stream.replace('/', '-');
    return isScenarios(stream) ? name + ".json" : "TEST-" + name + ".xml";
  }

  private void send(
      String stream,
      int night,
      Instant at,
      Map<String, String> properties,
      List<Suite> suites,
      String team,
      List<String> more)
      throws IOException {
    Path file = folder.resolve(fileName(stream));
    List<Suite> all = Troubles.in(stream, night, suites);
    if (isScenarios(stream)) {
      ScenarioFile.write(file, at, all);
    } else {
      ReportFile.write(file, at, properties, all);
    }
    List<String> options = new ArrayList<>(more);
    Path shots = ReportFile.shotsOf(file);
    if (Files.isDirectory(shots)) {
      options.addAll(List.of("--attach", shots.toString()));
    }
    push(stream, night, file, team, options);
    if (Files.isDirectory(shots)) {
      remove(shots);
    }
  }

  private void soak(int night, Instant at) throws IOException {
    Path file = folder.resolve("samples.csv");
    Soak.write(file, night);
    Path bundle = Soak.bundle(folder.resolve("curves"), night);
    List<String> more = new ArrayList<>(Soak.COLUMNS);
    more.addAll(List.of("--at", at.toString()));
    more.addAll(List.of("--bundle", bundle.toString(), "--title", "Load curves"));
    push("harbour-load/soak", night, file, "moorings", more);
  }

  private void push(String stream, int night, Path file, String team, List<String> more)
      throws IOException {
    String commit =
        String.format("%08x%08x", (stream + night).hashCode(), (night + stream).hashCode());
    List<String> args = new ArrayList<>(List.of("push", file.toString(), "--stream", stream));
    args.addAll(List.of("--commit", commit, "--label", "team=" + team, "--label", "env=staging"));
    args.addAll(
        List.of("--build-url", "https://builds.skerrow.example/" + stream + "/" + (1000 + night)));
    if (!more.contains("--branch")) {
      args.addAll(List.of("--branch", "main"));
    }
    args.addAll(more);
    vine(args.toArray(String[]::new));
  }
}
