package org.vinecellar.service.problem;

import io.quarkus.logging.LoggingFilter;
import io.vertx.core.VertxException;
import io.vertx.core.http.HttpClosedException;
import io.vertx.core.http.StreamResetException;
import java.io.IOException;
import java.nio.channels.ClosedChannelException;
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
    return thrown instanceof HttpClosedException
        || thrown instanceof StreamResetException
        || thrown instanceof ClosedChannelException
        // These two have no type of their own.
        || thrown instanceof VertxException && "Connection was closed".equals(thrown.getMessage())
        || thrown instanceof IOException
            && String.valueOf(thrown.getMessage()).contains("Connection reset");
  }
}
