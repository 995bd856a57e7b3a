package org.vinecellar.service.web;

import io.vertx.core.Context;
import io.vertx.core.Vertx;
import io.vertx.core.buffer.Buffer;
import io.vertx.core.http.HttpConnection;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.http.HttpServerResponse;
import jakarta.inject.Singleton;
import jakarta.ws.rs.core.Response;
import java.util.concurrent.CompletableFuture;
import org.jboss.logging.Logger;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.contents.Content;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Addresses;
import org.vinecellar.service.guard.Crowd;
import org.vinecellar.service.guard.Lines;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;

/**
 * Sends contents at the reader's pace. A thread and a connection to the database are held for one
 * piece; while the reader takes it, nothing is. A reader who takes nothing for long is given up.
 */
@Singleton
public class Downloads {
  private static final Logger LOG = Logger.getLogger(Downloads.class);
  private static final int PIECE = 128 << 10;

  private final Rooms rooms;
  private final Crowd crowd;
  private final long idleMs;

  Downloads(Rooms rooms, VineConfig config) {
    this.rooms = rooms;
    this.crowd =
        new Crowd("downloads", config.door().downloads(), config.door().downloadsOfAddress());
    this.idleMs = config.door().writeIdle().toMillis();
  }

  /** A part of a content that a resource answers with; {@link DownloadWriter} sends it. */
  record Download(Content content, long from, long count) {}

  /** How many read. */
  public int size() {
    return crowd.size();
  }

  /** An answer with a part of a content, to be given its other headers. */
  public Response.ResponseBuilder response(Content content, long from, long count) {
    return Response.ok(new Download(content, from, count)).header("Content-Length", count);
  }

  /**
   * Lets somebody begin to read.
   *
   * @throws org.vinecellar.core.problem.TryLaterException {@code TOO_MANY_AT_ONCE}
   */
  public Crowd.Place enter(HttpServerRequest request) {
    return crowd.enter(Addresses.of(request));
  }

  /**
   * Sends a part of a content, whose length the headers of the response tell. To be called on the
   * event loop of the response.
   *
   * @param place is left at the end, however it comes
   * @return done when the last byte was taken; failed when the reader was given up or went away
   */
  public CompletableFuture<Void> send(
      HttpServerRequest request, Content content, long from, long count, Crowd.Place place) {
    HttpServerResponse response = request.response();
    Sending sending = new Sending(request, content, from, from + count);
    Rooms.then(sending.result, (done, failure) -> place.leave());
    response.exceptionHandler(sending::fail);
    response.closeHandler(gone -> sending.fail(null));
    sending.next();
    return sending.result;
  }

  /** One download. All on one event loop. */
  private final class Sending {
    private final CompletableFuture<Void> result = new CompletableFuture<>();
    private final HttpConnection connection;
    private final HttpServerResponse response;
    private final Content content;
    private final long end;
    private final Context loop = Vertx.currentContext();
    private long at;

    Sending(HttpServerRequest request, Content content, long from, long end) {
      this.connection = request.connection();
      this.response = request.response();
      this.content = content;
      this.at = from;
      this.end = end;
    }

    void next() {
      if (result.isDone()) {
        return;
      }
      if (at >= end) {
        response.end();
        result.complete(null);
        return;
      }
      int most = (int) Math.min(PIECE, end - at);
      long from = at;
      Rooms.then(
          rooms.run(Room.DOWNLOAD, () -> content.read(from, most)),
          loop,
          (piece, failure) -> write(piece, failure));
    }

    private void write(byte @Nullable [] piece, @Nullable Throwable failure) {
      if (result.isDone()) {
        return;
      }
      if (failure != null || piece == null || piece.length == 0) {
        // The length was promised: only a broken connection tells the reader that some is missing.
        LOG.warnf("a download is broken off at byte %d of %d: %s", at, end, failure);
        fail(failure);
        return;
      }
      at += piece.length;
      try {
        write(piece);
      } catch (IllegalStateException e) {
        LOG.warnf("a download could not be sent: %s", e);
        fail(e);
      }
    }

    private void write(byte[] piece) {
      long timer = loop.owner().setTimer(idleMs, late -> fail(null));
      response
          .write(Buffer.buffer(piece))
          .onComplete(
              written -> {
                loop.owner().cancelTimer(timer);
                if (written.failed()) {
                  fail(written.cause());
                } else {
                  next();
                }
              });
    }

    private void fail(@Nullable Throwable failure) {
      if (result.completeExceptionally(
          failure == null ? new IllegalStateException("the reader took nothing") : failure)) {
        LOG.debugf("a download was given up: %s", failure);
        // Not the response: of one that has begun, its end would be waited for.
        Lines.cut(connection);
      }
    }
  }
}
