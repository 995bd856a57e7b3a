package org.vinecellar.service.problem;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.vertx.core.http.HttpServerResponse;
import jakarta.inject.Singleton;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.CompletionException;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.FilterException;
import org.vinecellar.core.ingest.UnreadableUploadException;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;
import org.vinecellar.service.guard.Disk;
import org.vinecellar.service.guard.Refusals;

/** The one place where a failure becomes an answer: status, headers and body. */
@Singleton
public class Problems {
  private static final String TYPE = "application/problem+json";
  private static final int MAX_FILES = 50;
  private static final int USUAL_WAIT_SECONDS = 5;

  private final Refusals refusals;
  private final Disk disk;
  private final ObjectMapper json;

  Problems(Refusals refusals, Disk disk, ObjectMapper json) {
    this.refusals = refusals;
    this.disk = disk;
    this.json = json;
  }

  /** An answer. */
  record Answer(int status, Map<String, String> headers, ProblemBody body) {
    /** The same under a nearer status. */
    Answer as(int nearer) {
      return new Answer(nearer, headers, body.under(nearer));
    }
  }

  /** The status of a problem. */
  public static int status(ProblemCode code) {
    return switch (code) {
      case NOT_SIGNED_IN -> 401;
      case TOO_MANY_TRIES, TOO_MANY_AT_ONCE -> 429;
      case EDITED_MEANWHILE -> 412;
      case VERSION_NEEDED -> 428;
      case TOO_SLOW -> 408;
      case WRONG_METHOD -> 405;
      case WRONG_TYPE -> 415;
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

  /** What a failure is answered with. Notes it. */
  Answer answer(Throwable failure) {
    Throwable e = failure;
    while (e instanceof CompletionException && e.getCause() != null) {
      e = e.getCause();
    }
    if (!(e instanceof CellarException ours)) {
      refusals.fault("a request failed", e);
      return answer(
          ProblemCode.INTERNAL,
          "Something went wrong inside the portal; its log says more. Trying again may help.",
          null,
          USUAL_WAIT_SECONDS);
    }
    if (ours.code() == ProblemCode.INTERNAL) {
      refusals.fault(ours.text(), ours);
    }
    long wait = USUAL_WAIT_SECONDS;
    if (ours instanceof TryLaterException later) {
      wait = later.waitSeconds();
    } else if (ours.code() == ProblemCode.DISK_FULL) {
      disk.noteFull();
      wait = Disk.LATER.toSeconds();
    }
    Answer answer = answer(ours.code(), ours.text(), files(ours), wait);
    return ours instanceof FilterException filter
        ? new Answer(answer.status, answer.headers, answer.body.at(filter.at()))
        : answer;
  }

  /** What is said of a failure that is only a part of an answer. Notes it. */
  public ProblemBody told(Throwable failure) {
    return answer(failure).body();
  }

  Answer answer(
      ProblemCode code, String detail, @Nullable List<ProblemBody.FileFault> files, long wait) {
    refusals.note(code, detail);
    int status = status(code);
    Map<String, String> headers = new LinkedHashMap<>();
    headers.put("Content-Type", TYPE);
    headers.put("Cache-Control", "no-store");
    if (status == 401) {
      headers.put("WWW-Authenticate", "Bearer realm=\"vine-cellar\"");
    }
    if (status == 503 || status == 429) {
      headers.put("Retry-After", Long.toString(wait));
    }
    return new Answer(status, headers, ProblemBody.of(code, status, detail, files));
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

  /** Answers a request that no resource has seen. */
  public void send(HttpServerResponse response, Throwable failure) {
    Answer answer = answer(failure);
    if (response.ended() || response.closed()) {
      return;
    }
    response.setStatusCode(answer.status());
    answer.headers().forEach(response::putHeader);
    try {
      response.end(json.writeValueAsString(answer.body()));
    } catch (JsonProcessingException e) {
      throw new IllegalStateException("a problem always has a JSON form", e);
    }
  }
}
