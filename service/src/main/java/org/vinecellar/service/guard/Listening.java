package org.vinecellar.service.guard;

import io.vertx.core.Future;
import java.net.BindException;
import java.util.concurrent.ExecutionException;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.TimeoutException;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Waits until a server listens, or says why it cannot, and what to do. */
public final class Listening {
  private static final int LONGEST_SECONDS = 30;

  private Listening() {}

  /**
   * Waits at the start; never to be called on an event loop.
   *
   * @param port as it was set; 0 for any
   * @param setting names the port
   * @throws CellarException {@code INTERNAL}, when it does not listen
   */
  public static <T> T await(Future<T> begun, String host, int port, String setting) {
    String why;
    try {
      return begun.toCompletionStage().toCompletableFuture().get(LONGEST_SECONDS, TimeUnit.SECONDS);
    } catch (ExecutionException e) {
      Throwable cause = e.getCause();
      why = cause instanceof BindException ? String.valueOf(cause.getMessage()) : "" + cause;
    } catch (TimeoutException e) {
      why = "it took too long";
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      why = "it was interrupted";
    }
    throw new CellarException(
        ProblemCode.INTERNAL,
        "the portal cannot listen at "
            + (host + ":" + port + ": " + why)
            + ". VINE_HOST and "
            + setting
            + " name an address of this machine and a free port");
  }
}
