package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.io.IOException;
import java.nio.file.Path;
import java.time.InstantSource;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.ReceiptPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.output.WaitingPrinter;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.client.spool.Delivery;
import org.vinecellar.client.spool.Spool;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;
import picocli.CommandLine.Option;

/** Sends what waits on disk, in the order in which it was made. */
@Command(
    name = "flush",
    description = "Send the uploads that wait on disk, the oldest first.",
    mixinStandardHelpOptions = true)
final class FlushCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();
  @Mixin private SpoolOptions spooling = new SpoolOptions();

  @Option(
      names = "--discard",
      description =
          "Throw away what waits for another portal or project; without it, that is listed.")
  private boolean discard;

  private final Terminal terminal;
  private final Map<String, String> environment;
  private final InstantSource clock;
  private int sent;
  private int refused;
  private final ArrayNode others = JsonNodeFactory.instance.arrayNode();

  FlushCommand(Terminal terminal, Map<String, String> environment, InstantSource clock) {
    this.terminal = terminal;
    this.environment = environment;
    this.clock = clock;
  }

  @Override
  public Integer call() throws IOException {
    SettingsFile file = SettingsFile.near(Path.of(""));
    Portal portal = options.portal(environment, file);
    Spool spool = spooling.spool(environment, file);
    int pipes = spool.adopt();
    if (pipes > 0) {
      terminal.note(
          pipes == 1
              ? "a pipe ended before it had sent what came; that is sent as far as it came"
              : pipes
                  + " pipes ended before they had sent what came; that is sent as far as it came");
    }
    if (spool.waiting().isEmpty()) {
      return ended("nothing waits in " + spool.directory());
    }
    try (Spool.Turn turn = spool.turn()) {
      if (turn == null) {
        return ended("another process is sending what waits in " + spool.directory());
      }
      Delivery delivery =
          new Delivery(portal, spooling.retryFor(environment, file), terminal::note);
      for (Path upload : spool.waiting()) {
        try {
          one(portal, spool, delivery, Spool.read(upload));
        } catch (Spool.DamagedException e) {
          aside(spool, upload, String.valueOf(e.getMessage()), "");
        }
      }
    }
    ended(
        sent
            + (sent == 1 ? " upload sent" : " uploads sent")
            + (refused == 0 ? "" : ", " + refused + " put aside")
            + (others.isEmpty()
                ? ""
                : ", "
                    + others.size()
                    + (discard ? " thrown away that were" : " left that are")
                    + " for another portal or project"
                    + (discard ? "" : " (--discard throws them away)")));
    return refused > 0 ? ExitCode.REFUSED : ExitCode.DONE;
  }

  private void one(Portal portal, Spool spool, Delivery delivery, Spool.Entry entry)
      throws IOException {
    if (!entry.url().equals(portal.base()) || !entry.project().equals(portal.project())) {
      other(spool, entry);
      return;
    }
    try {
      JsonNode receipt =
          delivery.send(() -> new UploadForm(entry.fields(), entry.files(), bytes -> {}), () -> {});
      spool.remove(entry);
      sent++;
      if (!options.json()) {
        new ReceiptPrinter(terminal).print(receipt);
      }
    } catch (PortalException e) {
      if (e.mayPass() || e.isDenied()) {
        terminal.note("the uploads that were not sent still wait in " + spool.directory());
        throw e;
      }
      aside(
          spool,
          entry.path(),
          String.valueOf(e.getMessage()),
          "an upload to " + entry.stream() + " was refused: ");
    }
  }

  /** Names what waits for somebody else, so that it can be told what it is. */
  private void other(Spool spool, Spool.Entry entry) throws IOException {
    long bytes = entry.bytes();
    others
        .addObject()
        .put("stream", entry.stream())
        .put("url", entry.url())
        .put("project", entry.project())
        .put("made", entry.made().toString())
        .put("bytes", bytes);
    if (!options.json()) {
      new WaitingPrinter(terminal, clock.instant()).print(entry);
    }
    if (discard) {
      spool.remove(entry);
    }
  }

  private void aside(Spool spool, Path upload, String reason, String what) throws IOException {
    refused++;
    Path aside = spool.setAside(upload, reason);
    terminal.error(what + reason);
    terminal.note("It was put aside as " + aside);
  }

  private int ended(String words) {
    if (options.json()) {
      terminal.json(
          JsonNodeFactory.instance
              .objectNode()
              .put("sent", sent)
              .put("refused", refused)
              .put("left", discard ? 0 : others.size())
              .put("discarded", discard ? others.size() : 0)
              .set("others", others));
    } else {
      terminal.line(words);
    }
    return ExitCode.DONE;
  }
}
