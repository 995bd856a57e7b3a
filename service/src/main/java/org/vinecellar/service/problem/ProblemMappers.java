package org.vinecellar.service.problem;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.exc.MismatchedInputException;
import jakarta.ws.rs.WebApplicationException;
import jakarta.ws.rs.core.Response;
import java.util.List;
import org.jboss.logging.Logger;
import org.jboss.resteasy.reactive.server.ServerExceptionMapper;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.ingest.UnreadableUploadException;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** The one place where a failure gets its HTTP status. */
public class ProblemMappers {
  private static final Logger LOG = Logger.getLogger(ProblemMappers.class);
  private static final int MAX_FILES = 50;

  /** The status of a problem. */
  public static int status(ProblemCode code) {
    return switch (code) {
      case NOT_SIGNED_IN -> 401;
      case TOO_MANY_TRIES -> 429;
      case EDITED_MEANWHILE -> 412;
      case VERSION_NEEDED -> 428;
      default ->
          switch (code.kind()) {
            case CALLER -> 400;
            case DENIED -> 403;
            case MISSING -> 404;
            case CONFLICT -> 409;
            case LIMIT -> 413;
            case UNREADABLE -> 422;
            case UNAVAILABLE -> 503;
            case INTERNAL -> 500;
          };
    };
  }

  @ServerExceptionMapper
  Response ours(CellarException e) {
    int status = status(e.code());
    if (status >= 500) {
      LOG.error(e.text(), e);
    }
    return response(e.code(), status, e.text(), files(e));
  }

  private static @Nullable List<ProblemBody.FileFault> files(CellarException e) {
    if (!(e instanceof UnreadableUploadException unreadable)) {
      return null;
    }
    return unreadable.files().stream()
        .limit(MAX_FILES)
        .map(file -> new ProblemBody.FileFault(file.file(), String.valueOf(file.error())))
        .toList();
  }

  @ServerExceptionMapper
  Response json(JsonProcessingException e) {
    return response(
        ProblemCode.INVALID_VALUE, 400, "the JSON of the request: " + e.getOriginalMessage(), null);
  }

  /** The framework answers these without a word unless they are named. */
  @ServerExceptionMapper
  Response mismatched(MismatchedInputException e) {
    return json(e);
  }

  @ServerExceptionMapper
  Response http(WebApplicationException e) {
    int status = e.getResponse().getStatus();
    if (e.getCause() instanceof JsonProcessingException json) {
      return json(json);
    }
    if (status == 404 && e.getCause() instanceof RuntimeException) {
      // What cannot be converted is, for the framework, an address that does not exist.
      return response(
          ProblemCode.INVALID_VALUE,
          400,
          "a parameter of the address is not what it should be, such as a number; see"
              + " /api/v1/openapi",
          null);
    }
    ProblemCode code =
        switch (status) {
          case 401 -> ProblemCode.NOT_SIGNED_IN;
          case 403 -> ProblemCode.NOT_ALLOWED;
          case 404 -> ProblemCode.NOT_FOUND;
          case 413 -> ProblemCode.TOO_LARGE;
          default -> status >= 500 ? ProblemCode.INTERNAL : ProblemCode.INVALID_VALUE;
        };
    return response(code, status, advice(status), null);
  }

  private static String advice(int status) {
    return switch (status) {
      case 404 -> "the API has no such address; its document is at /api/v1/openapi";
      case 405 -> "the address is right, the method is not; see /api/v1/openapi";
      case 406, 415 -> "the content type is not one that this address knows; see /api/v1/openapi";
      case 413 -> "the request is larger than this portal takes (VINE_UPLOAD_MAX)";
      default -> "the request was refused with HTTP " + status + "; see /api/v1/openapi";
    };
  }

  @ServerExceptionMapper
  Response anything(RuntimeException e) {
    LOG.error("a request failed", e);
    return response(
        ProblemCode.INTERNAL,
        500,
        "Something went wrong inside the portal; its log says more. Trying again may help.",
        null);
  }

  private static Response response(
      ProblemCode code, int status, String detail, @Nullable List<ProblemBody.FileFault> files) {
    Response.ResponseBuilder response =
        Response.status(status)
            .type("application/problem+json")
            .entity(ProblemBody.of(code, status, detail, files));
    if (status == 401) {
      response.header("WWW-Authenticate", "Bearer realm=\"vine-cellar\"");
    }
    if (status == 503) {
      response.header("Retry-After", "5");
    }
    return response.build();
  }
}
