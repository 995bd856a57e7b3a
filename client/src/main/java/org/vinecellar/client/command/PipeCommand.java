package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.FilterInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.UUID;
import java.util.concurrent.Callable;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.live.LiveFeed;
import org.vinecellar.client.live.Tee;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.client.spool.Draft;
import org.vinecellar.client.spool.Spool;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.Formats;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Sends results while tests run, and the whole of them at the end. */
@Command(
    name = "pipe",
    description = {
      "Send what is piped in while tests run: go test -json, TAP, Cucumber Messages, or our own",
      "events. At the end the whole is sent as vine push would."
    },
    mixinStandardHelpOptions = true)
final class PipeCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();
  @Mixin private UploadSettings settings = new UploadSettings();
  @Mixin private SpoolOptions spooling = new SpoolOptions();

  @Option(
      names = "--name",
      paramLabel = "FILE",
      description = "What to call it; for formats that name no suite (results).")
  private String name = "results";

  @Option(names = "--quiet", description = "Do not print failing tests as they come.")
  private boolean quiet;

  @Option(
      names = "--spool-ok",
      description = "End with 0 when the upload waits on disk, so that the job goes on.")
  private boolean spoolOk;

  @Option(
      names = "--attach",
      paramLabel = "DIR",
      description =
          "At the end send the files below it too, as vine push does. Can be given again.")
  private List<String> attach = List.of();

  private final Terminal terminal;
  private final Map<String, String> environment;
  private final InstantSource clock;
  private final InputStream in;

  PipeCommand(
      Terminal terminal, Map<String, String> environment, InstantSource clock, InputStream in) {
    this.terminal = terminal;
    this.environment = environment;
    this.clock = clock;
    this.in = in;
  }

  @Override
  public Integer call() throws IOException {
    SettingsFile file = SettingsFile.near(Path.of(""));
    Portal portal = options.portal(environment, file);
    List<Map.Entry<String, String>> fields =
        new ArrayList<>(settings.fields(environment, file, clock.instant()));
    if (settings.run(environment) == null) {
      // A run of its own, which ends with this part.
      fields.add(Map.entry("run", "pipe-" + UUID.randomUUID()));
      fields.removeIf(field -> field.getKey().equals("expect_parts"));
      fields.add(Map.entry("expect_parts", "1"));
    }
    Spool spool = spooling.spool(environment, file);
    try (Draft draft =
        spool.draft(portal.base(), portal.project(), fields, name, clock.instant())) {
      try (LiveFeed feed =
          new LiveFeed(
              portal, beginning(fields), terminal::note, live -> nowLive(draft, fields, live))) {
        read(draft, feed);
        feed.close();
        String live = feed.live();
        if (live != null) {
          fields.add(live(live));
        }
      }
      if (Files.size(draft.content()) == 0) {
        draft.remove();
        throw new CommandException(
            ExitCode.NOTHING_FOUND,
            "nothing was piped in, and nothing was sent; did the command before it start?");
      }
      return send(portal, spool, file, fields, draft);
    }
  }

  private static Map.Entry<String, String> live(String live) {
    return Map.entry("live", live);
  }

  /** Should this process end now, what was piped in takes the place of what was shown live. */
  private void nowLive(Draft draft, List<Map.Entry<String, String>> fields, String live) {
    List<Map.Entry<String, String>> all = new ArrayList<>(fields);
    all.add(live(live));
    try {
      draft.describe(all);
    } catch (IOException e) {
      terminal.note("the copy of what is piped in cannot be described: " + e);
    }
  }

  private int send(
      Portal portal,
      Spool spool,
      SettingsFile file,
      List<Map.Entry<String, String>> fields,
      Draft draft)
      throws IOException {
    List<UploadForm.FilePart> parts = new ArrayList<>();
    parts.add(draft.part());
    NamedAttachments named = new NamedAttachments(terminal);
    (attach.isEmpty() ? file.list("attach") : attach).forEach(named::directory);
    named.namedIn(draft.content());
    parts.addAll(named.parts());
    Sender sender =
        new Sender(
            portal,
            spool,
            spooling.retryFor(environment, file),
            terminal,
            clock,
            options.json(),
            spoolOk,
            new FailOn());
    int code;
    try {
      code = sender.send(fields, parts);
    } catch (PortalException e) {
      if (e.mayPass() || e.isDenied()) {
        // A copy with all that goes with it waits already.
        draft.remove();
      } else {
        Path aside = spool.setAside(draft.leave(), String.valueOf(e.getMessage()));
        terminal.note("what was piped in is kept as " + aside.resolve("0"));
      }
      throw e;
    }
    draft.remove();
    return code;
  }

  private void read(Draft draft, LiveFeed feed) throws IOException {
    // Each piece is on the disk at once: this process may be ended at any time.
    try (OutputStream out = draft.out();
        Tee tee = new Tee(in, out, OutputStream.nullOutputStream())) {
      try {
        // Readers close what they read; what is left of it is wanted all the same.
        Formats.readLive(
            new FilterInputStream(tee) {
              @Override
              public void close() {}
            },
            name,
            ReadLimits.DEFAULT,
            new Feeding(feed));
      } catch (UnreadableFileException e) {
        terminal.note("what is piped in " + e.text());
      }
      // All of it is kept, also what comes after something unreadable.
      tee.transferTo(OutputStream.nullOutputStream());
    }
  }

  private final class Feeding implements CaseHandler {
    private final LiveFeed feed;

    Feeding(LiveFeed feed) {
      this.feed = feed;
    }

    @Override
    public void onStart(TestId test, @Nullable Instant time) {
      feed.started(test, time == null ? clock.instant() : time);
    }

    @Override
    public void onEnd(TestId test) {
      feed.ended(test);
    }

    @Override
    public void onCase(TestResult result, Repeat repeat) {
      feed.finished(result, repeat);
      if (!quiet && !options.json() && result.outcome().isFailing()) {
        String line = result.attempts().get(result.attempts().size() - 1).firstLine();
        terminal.line(
            terminal.paint(
                    result.kind() == ResultKind.SETUP ? "set-up failed" : result.outcome().word(),
                    Terminal.Paint.CLARET)
                + "  "
                + Terminal.clean(result.test().suite() + " › " + result.test().displayName())
                + (line == null ? "" : ": " + Terminal.clean(line)));
      }
    }

    @Override
    public void onFormat(String format) {}

    @Override
    public void onProperty(String property, String value) {}

    @Override
    public void onProblem(String problem) {}

    @Override
    public void onBrokenOff(String how) {}
  }

  /** What the portal is told when the part begins. */
  private static ObjectNode beginning(List<Map.Entry<String, String>> fields) {
    ObjectNode node = JsonNodeFactory.instance.objectNode();
    ObjectNode labels = node.putObject("labels");
    ObjectNode variant = node.putObject("variant");
    for (Map.Entry<String, String> field : fields) {
      String value = field.getValue();
      switch (field.getKey()) {
        case "stream", "run", "part", "commit", "branch" -> node.put(field.getKey(), value);
        case "build_url" -> node.put("buildUrl", value);
        case "attempt" -> node.put("attempt", Integer.parseInt(value));
        case "expect_parts" -> node.put("expectParts", Integer.parseInt(value));
        case "label" -> put(labels, value);
        case "variant" -> put(variant, value);
        default -> {
          // the rest belongs to the upload at the end
        }
      }
    }
    return node;
  }

  private static void put(ObjectNode pairs, String pair) {
    int equals = pair.indexOf('=');
    if (equals > 0) {
      pairs.put(pair.substring(0, equals), pair.substring(equals + 1));
    }
  }
}
