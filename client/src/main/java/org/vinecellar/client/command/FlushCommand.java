package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import java.io.IOException;
import java.nio.file.Path;
import java.util.Map;
import java.util.concurrent.Callable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.ReceiptPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.settings.SettingsFile;
import org.vinecellar.client.spool.Delivery;
import org.vinecellar.client.spool.Spool;
import picocli.CommandLine.Command;
import picocli.CommandLine.Mixin;

/** Sends what waits on disk, in the order in which it was made. */
@Command(
    name = "flush",
    description = "Send the uploads that wait on disk, the oldest first.",
    mixinStandardHelpOptions = true)
final class FlushCommand implements Callable<Integer> {
  @Mixin private PortalOptions options = new PortalOptions();
  @Mixin private SpoolOptions spooling = new SpoolOptions();

  private final Terminal terminal;
  private final Map<String, String> environment;
  private int sent;
  private int refused;
  private int others;

  FlushCommand(Terminal terminal, Map<String, String> environment) {
    this.terminal = terminal;
    this.environment = environment;
  }

  @Override
  public Integer call() throws IOException {
    SettingsFile file = SettingsFile.near(Path.of(""));
    Portal portal = options.portal(environment, file);
    Spool spool = spooling.spool(environment, file);
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
            + (others == 0 ? "" : ", " + others + " left that are for another portal or project"));
    return refused > 0 ? ExitCode.REFUSED : ExitCode.DONE;
  }

  private void one(Portal portal, Spool spool, Delivery delivery, Spool.Entry entry)
      throws IOException {
    if (!entry.url().equals(portal.base()) || !entry.project().equals(portal.project())) {
      others++;
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
      if (e.mayPass()) {
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
              .put("left", others));
    } else {
      terminal.line(words);
    }
    return ExitCode.DONE;
  }
}
