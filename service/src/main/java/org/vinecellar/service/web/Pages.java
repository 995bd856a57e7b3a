package org.vinecellar.service.web;

import jakarta.ws.rs.core.EntityTag;
import jakarta.ws.rs.core.Request;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.net.URI;
import java.util.function.Supplier;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Pages by cursor (RFC 8288 links) and answers by entity tag (RFC 9110, section 8.8.3). */
public final class Pages {
  private Pages() {}

  /**
   * A wanted page size within its bounds.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  public static int limit(@Nullable Integer wanted, int usual, int most) {
    if (wanted == null) {
      return usual;
    }
    if (wanted < 1 || wanted > most) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "limit is " + wanted + "; it goes from 1 to " + most);
    }
    return wanted;
  }

  /**
   * The number that a cursor of ours stands for; 0 for the first page.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  public static long seen(@Nullable String cursor) {
    if (cursor == null) {
      return 0;
    }
    if (!cursor.matches("[0-9]{1,10}")) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "the cursor is not one of ours; begin again without it");
    }
    return Long.parseLong(cursor);
  }

  /** The body, with a link to the next page when there is one. */
  public static Response.ResponseBuilder page(Object body, UriInfo uri, @Nullable String next) {
    Response.ResponseBuilder response = Response.ok(body);
    if (next != null) {
      URI link = uri.getRequestUriBuilder().replaceQueryParam("cursor", next).build();
      // Relative (RFC 8288, section 3): what the request called this host is no matter.
      response.header(
          "Link", "<" + link.getRawPath() + "?" + link.getRawQuery() + ">; rel=\"next\"");
    }
    return response;
  }

  /**
   * 304 when the caller has this version, else the answer with its tag.
   *
   * @param version changes whenever the answer does
   */
  public static Response unlessKnown(
      Request request, String version, Supplier<Response.ResponseBuilder> answer) {
    EntityTag tag = new EntityTag(version, true);
    Response.ResponseBuilder known = request.evaluatePreconditions(tag);
    Response.ResponseBuilder response = known == null ? answer.get() : known;
    return response.tag(tag).header("Cache-Control", "private, no-cache").build();
  }
}
