package org.vinecellar.service.problem;

import com.fasterxml.jackson.core.JsonLocation;
import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonMappingException;
import com.fasterxml.jackson.databind.exc.MismatchedInputException;
import com.fasterxml.jackson.databind.exc.UnrecognizedPropertyException;
import jakarta.ws.rs.WebApplicationException;
import jakarta.ws.rs.core.Response;
import java.util.stream.Collectors;
import org.jboss.resteasy.reactive.server.ServerExceptionMapper;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** What the framework does with failures of resources. */
public class ProblemMappers {
  private final Problems problems;

  ProblemMappers(Problems problems) {
    this.problems = problems;
  }

  @ServerExceptionMapper
  Response ours(CellarException e) {
    return response(problems.answer(e));
  }

  /** Only where it is: what is wrong there is told in words of the parser, with its classes. */
  @ServerExceptionMapper
  Response json(JsonProcessingException e) {
    JsonLocation at = e.getLocation();
    String place = at == null ? "" : " (line " + at.getLineNr() + ":" + at.getColumnNr() + ")";
    String field =
        e instanceof JsonMappingException mapping && !mapping.getPath().isEmpty()
            ? mapping.getPath().stream()
                .map(ref -> String.valueOf(ref.getFieldName()))
                .map(name -> name.length() > 80 ? name.substring(0, 80) + "…" : name)
                .limit(5)
                .collect(Collectors.joining("."))
            : "";
    boolean unknown = e instanceof UnrecognizedPropertyException;
    String what =
        unknown
            ? "has a field “" + field + "” that is not known here"
            : field.isEmpty()
                ? "is not well-formed"
                : "has a value that does not fit in “" + field + "”";
    return response(
        ProblemCode.INVALID_VALUE,
        "the JSON of the request " + what + place + "; see /api/v1/openapi");
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
          "a parameter of the address is not what it should be, such as a number; see"
              + " /api/v1/openapi");
    }
    ProblemCode code =
        switch (status) {
          case 401 -> ProblemCode.NOT_SIGNED_IN;
          case 403 -> ProblemCode.NOT_ALLOWED;
          case 404 -> ProblemCode.NOT_FOUND;
          case 413 -> ProblemCode.TOO_LARGE;
          case 405 -> ProblemCode.WRONG_METHOD;
          case 406, 415 -> ProblemCode.WRONG_TYPE;
          default -> status >= 500 ? ProblemCode.INTERNAL : ProblemCode.INVALID_VALUE;
        };
    Problems.Answer answer = problems.answer(code, advice(status), null, 1);
    return response(answer.as(status >= 400 && status < 500 ? status : answer.status()));
  }

  private static String advice(int status) {
    return switch (status) {
      case 404 -> "the API has no such address; its document is at /api/v1/openapi";
      case 405 -> "the address is right, the method is not; see /api/v1/openapi";
      case 406, 415 -> "the content type is not one that this address knows; see /api/v1/openapi";
      case 413 -> "the request is larger than this portal takes (VINE_UPLOAD_MAX_MEGABYTES)";
      default -> "the request was refused with HTTP " + status + "; see /api/v1/openapi";
    };
  }

  @ServerExceptionMapper
  Response anything(RuntimeException e) {
    return response(problems.answer(e));
  }

  private Response response(ProblemCode code, String detail) {
    return response(problems.answer(code, detail, null, 1));
  }

  private static Response response(Problems.Answer answer) {
    Response.ResponseBuilder response = Response.status(answer.status()).entity(answer.body());
    answer.headers().forEach(response::header);
    return response.build();
  }
}
