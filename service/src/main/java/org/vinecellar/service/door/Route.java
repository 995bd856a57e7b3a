package org.vinecellar.service.door;

import java.util.Set;

/**
 * What the front door must know of an address: whether strangers may come, and what body it takes.
 *
 * @param isCounted against the most requests at a time; not what lasts long by its nature, which
 *     counts for itself
 */
record Route(Body body, boolean isOpenToAll, boolean isCounted) {
  private static final long SMALL_BYTES = 64 << 10;

  private static final Set<String> OPEN_TO_ALL =
      Set.of(
          "POST /api/v1/session",
          "POST /api/v1/session/invitation",
          "POST /api/v1/session/joining",
          "POST /api/v1/shared/board",
          "POST /api/v1/shared/sheet",
          "GET /api/v1/openapi");

  /** How a body is read. */
  enum Body {
    /** By the front door, whole, before the resource is called. */
    SMALL,
    /** By the resource itself, as it comes. */
    OWN
  }

  static Route of(String method, String path) {
    boolean own =
        method.equals("POST")
            && path.matches("/api/v1/projects/[^/]+/(uploads|live/[^/]+/batches)");
    boolean lasting = own || method.equals("GET") && path.matches(".*/(news|attachments/[^/]+)");
    return new Route(
        own ? Body.OWN : Body.SMALL, OPEN_TO_ALL.contains(method + " " + path), !lasting);
  }

  /** The most bytes of a body that the front door lets through by its header. */
  long mostBytes() {
    return body == Body.SMALL ? SMALL_BYTES : Long.MAX_VALUE;
  }
}
