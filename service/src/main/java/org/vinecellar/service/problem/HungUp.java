package org.vinecellar.service.problem;

import io.quarkus.logging.LoggingFilter;
import java.io.IOException;
import java.util.logging.Filter;
import java.util.logging.LogRecord;
import org.jspecify.annotations.Nullable;

/**
 * Leaves out of the log that a reader hung up: strangers could fill it with that. All other faults
 * pass.
 */
@LoggingFilter(name = "hung-up")
public final class HungUp implements Filter {
  @Override
  public boolean isLoggable(LogRecord message) {
    return !isHangUp(message.getThrown());
  }

  private static boolean isHangUp(@Nullable Throwable thrown) {
    if (thrown == null) {
      return false;
    }
    String text = String.valueOf(thrown.getMessage());
    boolean closed = text.equals("Connection was closed") || text.contains("Connection reset");
    boolean ofConnection =
        thrown instanceof IOException || thrown.getClass().getName().startsWith("io.vertx.");
    return closed && ofConnection;
  }
}
