package org.vinecellar.service.door;

import io.netty.handler.codec.http.TooLongHttpLineException;
import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.runtime.StartupEvent;
import io.quarkus.vertx.http.runtime.VertxHttpRecorder;
import io.vertx.core.AbstractVerticle;
import io.vertx.core.DeploymentOptions;
import io.vertx.core.Promise;
import io.vertx.core.Vertx;
import io.vertx.core.http.HttpServer;
import io.vertx.core.http.HttpServerOptions;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.http.HttpVersion;
import jakarta.annotation.Priority;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import java.util.List;
import java.util.concurrent.TimeUnit;
import org.jboss.logging.Logger;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.Lines;
import org.vinecellar.service.guard.Listening;
import org.vinecellar.service.problem.Problems;

/**
 * Listens for everybody. Not Quarkus’ own listener, since that hands out its connections only with
 * their first whole request: who never sends one would hold them all.
 */
@Singleton
public class PublicServer {
  private static final Logger LOG = Logger.getLogger(PublicServer.class);
  private static final int LONGEST_HEAD_BYTES = 16 << 10;
  private static final int LONGEST_LINE_BYTES = 16 << 10;

  /** Of a request that is being served; an upload may wait and be read that long. */
  private static final int IDLE_SECONDS = 600;

  private final Vertx vertx;
  private final VineConfig config;
  private final Lines lines;
  private final Problems problems;
  private volatile @Nullable String deployment;

  PublicServer(Vertx vertx, VineConfig config, Lines lines, Problems problems) {
    this.vertx = vertx;
    this.config = config;
    this.lines = lines;
    this.problems = problems;
  }

  /** One for each event loop; they share the port. */
  private final class Listener extends AbstractVerticle {
    @Override
    public void start(Promise<Void> started) {
      HttpServer server =
          vertx
              .createHttpServer(options())
              .connectionHandler(lines::opened)
              .requestHandler(PublicServer.this::handle)
              .invalidRequestHandler(PublicServer.this::refuse);
      server
          .listen()
          .onComplete(
              listening -> {
                if (listening.succeeded()) {
                  started.complete();
                } else {
                  started.fail(listening.cause());
                }
              });
    }
  }

  private HttpServerOptions options() {
    return new HttpServerOptions()
        .setHost(config.host())
        .setPort(config.port())
        .setMaxHeaderSize(LONGEST_HEAD_BYTES)
        .setMaxInitialLineLength(LONGEST_LINE_BYTES)
        .setIdleTimeout(IDLE_SECONDS)
        // Else nobody is told of a connection before its first bytes have come.
        .setHttp2ClearTextEnabled(false)
        .setCompressionSupported(true);
  }

  private void handle(HttpServerRequest request) {
    lines.asked(request);
    if (!namesOneHost(request)) {
      // Where such a request ends is not to be believed either.
      request.response().endHandler(sent -> request.connection().close());
      problems.send(
          request.response().putHeader("Connection", "close"),
          new CellarException(
              ProblemCode.INVALID_VALUE, "the request names no host, or no valid one (RFC 9112)"));
      return;
    }
    VertxHttpRecorder.getRootHandler().handle(request);
  }

  /** What is no request: of a line that is too long, the server itself would say nothing more. */
  private void refuse(HttpServerRequest request) {
    if (request.decoderResult().cause() instanceof TooLongHttpLineException) {
      request.response().endHandler(sent -> request.connection().close());
      problems.send(
          request.response().putHeader("Connection", "close"),
          new CellarException(
              ProblemCode.TOO_LARGE,
              "the address is longer than "
                  + LONGEST_LINE_BYTES
                  + " bytes; if there is a filter in it, ask for less"));
    } else {
      HttpServerRequest.DEFAULT_INVALID_REQUEST_HANDLER.handle(request);
    }
  }

  /** RFC 9112, 3.2; what is older than HTTP/1.1 needs to name none. */
  private static boolean namesOneHost(HttpServerRequest request) {
    List<String> named = request.headers().getAll("Host");
    return named.size() < 2
        && (request.authority() != null
            || request.version() == HttpVersion.HTTP_1_0
            || (named.size() == 1 && named.get(0).isEmpty()));
  }

  /** After everybody else: nobody is served by a portal that is half there. */
  void start(@Observes @Priority(Integer.MAX_VALUE) StartupEvent event) {
    int loops = 2 * Runtime.getRuntime().availableProcessors();
    deployment =
        Listening.await(
            vertx.deployVerticle(Listener::new, new DeploymentOptions().setInstances(loops)),
            config.host(),
            config.port(),
            "VINE_PORT");
    vertx.setPeriodic(TimeUnit.SECONDS.toMillis(2), tick -> lines.sweep());
    LOG.infof("the portal listens at http://%s:%d", config.host(), config.port());
  }

  void stop(@Observes ShutdownEvent event) {
    String id = deployment;
    if (id != null) {
      vertx.undeploy(id).onFailure(e -> LOG.warnf("the listener did not close: %s", e));
    }
  }
}
