package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.node.JsonNodeFactory;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.time.Duration;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.http.PortalException;
import org.vinecellar.client.http.UploadForm;
import org.vinecellar.client.output.ReceiptPrinter;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.client.spool.Delivery;
import org.vinecellar.client.spool.Spool;

/** Sends one upload, and keeps it on disk when the portal is away. */
final class Sender {
  private final Portal portal;
  private final Spool spool;
  private final Duration retryFor;
  private final Terminal terminal;
  private final InstantSource clock;
  private final boolean json;
  private final boolean spoolOk;
  private final FailOn failOn;

  /**
   * @param json whether the answer is printed as JSON
   * @param spoolOk whether it is fine that the upload waits on disk
   */
  Sender(
      Portal portal,
      Spool spool,
      Duration retryFor,
      Terminal terminal,
      InstantSource clock,
      boolean json,
      boolean spoolOk,
      FailOn failOn) {
    this.failOn = failOn;
    this.portal = portal;
    this.spool = spool;
    this.retryFor = retryFor;
    this.terminal = terminal;
    this.clock = clock;
    this.json = json;
    this.spoolOk = spoolOk;
  }

  /** The exit code. */
  int send(List<Map.Entry<String, String>> fields, List<UploadForm.FilePart> parts) {
    long total = parts.stream().mapToLong(part -> size(part.path())).sum();
    Terminal.Progress progress = terminal.progress("sending", total, json);
    List<Spool.Entry> waiting = new ArrayList<>();
    Delivery delivery = new Delivery(portal, retryFor, terminal::note);
    JsonNode receipt;
    try {
      receipt =
          delivery.send(
              () -> new UploadForm(fields, parts, progress),
              () -> waiting.add(keep(fields, parts)));
    } catch (PortalException e) {
      progress.end();
      if (e.isDenied()) {
        return denied(e, waiting.isEmpty() ? keep(fields, parts) : waiting.get(0));
      }
      if (waiting.isEmpty() || !e.mayPass()) {
        waiting.forEach(this::remove);
        throw e;
      }
      return waits(e);
    }
    progress.end();
    waiting.forEach(this::remove);
    if (json) {
      JsonNode known = known(receipt);
      terminal.json(known);
      return failOn.code(known);
    }
    ReceiptPrinter printer = new ReceiptPrinter(terminal);
    printer.print(receipt);
    others();
    JsonNode known = known(receipt);
    printer.printAgain(receipt, known);
    return failOn.code(known);
  }

  /**
   * The next step of a pipeline shall find the run explained. A token that only sends cannot see.
   *
   * @return the receipt, with what is known by then
   */
  private JsonNode known(JsonNode receipt) {
    JsonNode counts = receipt.path("run");
    if (counts.path("failed").asInt() + counts.path("errored").asInt() == 0) {
      return receipt;
    }
    try {
      RunName name = new RunName(receipt.path("stream").asText(), receipt.path("number").asText());
      JsonNode run = new Explained(portal).await(name.find(portal).path("id").asLong());
      if (!run.path("explained").asBoolean()) {
        terminal.note("the portal is busy: the causes of the failures will be told later");
      }
      boolean same =
          receipt.path("duplicate").asBoolean()
              || run.path("open").asBoolean()
              || run.path("changes").equals(receipt.path("changes"));
      return same ? receipt : new SecondLook(portal).at(receipt, run);
    } catch (PortalException | CommandException e) {
      if (!(e instanceof PortalException refused && refused.isDenied())) {
        terminal.note("whether the failures are explained is not known: " + e.getMessage());
      }
      return receipt;
    }
  }

  private Spool.Entry keep(
      List<Map.Entry<String, String>> fields, List<UploadForm.FilePart> parts) {
    try {
      return spool.add(portal.base(), portal.project(), fields, parts, clock.instant());
    } catch (IOException e) {
      throw new CommandException(
          ExitCode.NOT_REACHED,
          "the portal is away, and the upload could not be kept in "
              + spool.directory()
              + " either: "
              + e
              + ". Nothing was sent. The results are still in their files.");
    }
  }

  /** The token is wrong, or may not; the results are not. */
  private int denied(PortalException e, Spool.Entry entry) {
    terminal.note(
        "The upload waits in "
            + entry.path().getParent()
            + ". Send it with vine flush and a token that may.");
    throw e;
  }

  private int waits(PortalException e) {
    String message = String.valueOf(e.getMessage());
    terminal.error(message);
    terminal.note(
        "The upload waits in "
            + spool.directory()
            + ". Send it with vine flush when the portal is back.");
    if (json) {
      ObjectNode node = JsonNodeFactory.instance.objectNode();
      node.put("error", message).put("spooled", true);
      node.put("exitCode", spoolOk ? ExitCode.DONE : ExitCode.NOT_REACHED);
      terminal.json(node);
    }
    return spoolOk ? ExitCode.DONE : ExitCode.NOT_REACHED;
  }

  private void others() {
    try {
      int waiting = spool.waiting().size();
      if (waiting > 0) {
        terminal.note(
            waiting
                + (waiting == 1 ? " upload waits in " : " uploads wait in ")
                + spool.directory()
                + "; send with vine flush");
      }
    } catch (IOException e) {
      terminal.note("what waits in " + spool.directory() + " cannot be read: " + e);
    }
  }

  private void remove(Spool.Entry entry) {
    try {
      spool.remove(entry);
    } catch (IOException e) {
      terminal.note(entry.path() + " could not be removed; sent again it changes nothing: " + e);
    }
  }

  /** The size of a file that can be read. */
  static long size(Path path) {
    try {
      if (!Files.isReadable(path)) {
        throw new CommandException(
            ExitCode.UNREADABLE, path + " may not be read by this user. Nothing was sent.");
      }
      return Files.size(path);
    } catch (IOException e) {
      throw new CommandException(ExitCode.UNREADABLE, path + " cannot be read: " + e);
    }
  }
}
