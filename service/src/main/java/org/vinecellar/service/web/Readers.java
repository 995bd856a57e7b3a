package org.vinecellar.service.web;

import io.vertx.core.Vertx;
import io.vertx.core.http.HttpServerRequest;
import jakarta.inject.Singleton;
import jakarta.ws.rs.core.StreamingOutput;
import java.io.FilterOutputStream;
import java.io.IOException;
import java.io.OutputStream;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Lines;

/**
 * Answers that are written while they are made. Each holds a thread until its reader has taken it;
 * a reader who takes too little is given up.
 */
@Singleton
public class Readers {
  /** So much is to be taken in the time in which a reader may be idle. */
  private static final int PIECE = 128 << 10;

  private static final long LOOK_MS = 1_000;

  private final Vertx vertx;
  private final long idleNanos;

  Readers(Vertx vertx, VineConfig config) {
    this.vertx = vertx;
    this.idleNanos = config.door().writeIdle().toNanos();
  }

  /** The same answer, written so. */
  StreamingOutput paced(HttpServerRequest request, StreamingOutput answer) {
    return out -> write(request, answer, out);
  }

  private void write(HttpServerRequest request, StreamingOutput answer, OutputStream out)
      throws IOException {
    Paced paced = new Paced(out);
    long look =
        vertx.setPeriodic(
            LOOK_MS,
            id -> {
              if (paced.waited() > idleNanos) {
                Lines.cut(request.connection());
              }
            });
    try {
      answer.write(paced);
    } finally {
      vertx.cancelTimer(look);
    }
  }

  /** Knows how long it waits for the reader. Written by one thread, looked at by any. */
  private static final class Paced extends FilterOutputStream {
    private int taken;

    /** For what came before in the piece that is being taken. */
    private volatile long waited;

    private volatile long since;

    Paced(OutputStream out) {
      super(out);
    }

    long waited() {
      long begun = since;
      return waited + (begun == 0 ? 0 : System.nanoTime() - begun);
    }

    @Override
    public void write(int one) throws IOException {
      write(new byte[] {(byte) one}, 0, 1);
    }

    @Override
    public void write(byte[] bytes, int from, int count) throws IOException {
      for (int at = 0; at < count; at += PIECE) {
        int some = Math.min(PIECE, count - at);
        since = System.nanoTime();
        try {
          out.write(bytes, from + at, some);
        } finally {
          end(some);
        }
      }
    }

    @Override
    public void flush() throws IOException {
      since = System.nanoTime();
      try {
        out.flush();
      } finally {
        end(0);
      }
    }

    private void end(int count) {
      long begun = since;
      since = 0;
      taken += count;
      if (taken < PIECE) {
        waited = waited + System.nanoTime() - begun;
      } else {
        taken = 0;
        waited = 0;
      }
    }
  }
}
