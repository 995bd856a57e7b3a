package org.vinecellar.client.output;

import java.io.IOException;
import java.time.Duration;
import java.time.Instant;
import org.vinecellar.client.spool.Spool;

/** An upload that waits on disk, in a line. */
public final class WaitingPrinter {
  private final Terminal terminal;
  private final Instant now;

  /** On that terminal. */
  public WaitingPrinter(Terminal terminal, Instant now) {
    this.terminal = terminal;
    this.now = now;
  }

  /** What it is for, how old, how large. */
  public void print(Spool.Entry entry) throws IOException {
    terminal.line(
        entry.stream()
            + " for "
            + entry.url()
            + (entry.project().isEmpty() ? "" : ", project " + entry.project())
            + ": "
            + Phrases.age(Duration.between(entry.made(), now))
            + " old, "
            + Phrases.bytes(entry.bytes()));
  }
}
