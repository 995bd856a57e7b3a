package org.vinecellar.core.triage.faults;

/** A way in which a component of the environment fails. The order is that of how telling it is. */
public enum Way {
  /** No room left on a disk. */
  DISK_FULL("disk-full", "has no room left on its disk", true),
  /** A heap is used up. */
  HEAP("heap-full", "has used up its memory", true),
  /** No room for classes. */
  METASPACE("metaspace-full", "has no room for more classes", true),
  /** No thread or process can start. */
  THREADS("no-threads", "cannot start another thread or process", true),
  /** Too many files or sockets are open. */
  FILES("too-many-files", "has too many files open", true),
  /** There is no screen to draw on. */
  DISPLAY("no-display", "has no screen to draw on", true),
  /** What runs is of another version than what was built. */
  RUNTIME("runtime-version", "has a runtime of another version", true),
  /** What runs was ended from outside. */
  KILLED("killed", "was killed", true),
  /** A certificate's time is over, or has not begun. */
  CERTIFICATE_EXPIRED("certificate-expired", "has a certificate whose time is over", false),
  /** A certificate is for another name. */
  CERTIFICATE_NAME("certificate-name", "has a certificate of another name", false),
  /** A certificate's issuer is not trusted. */
  CERTIFICATE_UNTRUSTED("certificate-untrusted", "has a certificate that is not trusted", false),
  /** No common ground for encryption. */
  HANDSHAKE("tls-handshake", "does not agree on how to encrypt", false),
  /** Clocks disagree. */
  CLOCK("clock-skew", "has another time", false),
  /** It has as many connections as it takes. */
  TOO_MANY_CONNECTIONS("too-many-connections", "takes no more connections", false),
  /** No connection in the caller's pool is free. */
  POOL("pool-exhausted", "has no free connection left in the pool", false),
  /** It starts up, shuts down or recovers. */
  STARTING("starting", "is starting up or shutting down", false),
  /** It takes no writes. */
  READ_ONLY("read-only", "takes no writes", false),
  /** Its own memory is used up. */
  MEMORY_OF_SERVER("server-memory", "has no memory left for more data", false),
  /** It does not accept who asks. */
  LOGIN("login-refused", "does not accept the credentials", false),
  /** It asks for fewer requests. */
  THROTTLED("throttled", "takes no more requests for now", false),
  /** Its licence or quota is over. */
  LICENCE("licence", "has no valid licence", false),
  /** A name has no address. */
  NAME_UNKNOWN("name-unknown", "is not known by the name service", false),
  /** No way leads to its address. */
  UNREACHABLE("unreachable", "cannot be reached", false),
  /** Nobody listens. */
  REFUSED("refused", "refuses connections", false),
  /** A gateway has nobody behind it. */
  GATEWAY("gateway", "is not there behind its gateway", false),
  /** What is behind a gateway does not answer it in time. */
  GATEWAY_TIMEOUT("gateway-timeout", "does not answer its gateway in time", false),
  /** No leader, not enough replicas. */
  NO_LEADER("no-leader", "has no leader or too few replicas", false),
  /** It ends connections. */
  RESET("reset", "breaks off connections", false),
  /** A connection does not come about in time. */
  CONNECT_TIMEOUT("connect-timeout", "does not accept connections in time", false),
  /** An answer does not come in time. */
  ANSWER_TIMEOUT("answer-timeout", "does not answer in time", false),
  /** It says that it is not available. */
  UNAVAILABLE("unavailable", "is not available", false),
  /** A port is taken. */
  PORT_TAKEN("port-taken", "listens on a port that is taken", true),
  /** A browser, driver or device does not start or has died. */
  DEVICE("device-gone", "did not start or has died", true),
  /** What a container is made from cannot be had. */
  IMAGE("no-image", "cannot be had to make a container of", true),
  /** No engine for containers. */
  CONTAINERS("no-containers", "runs no containers", true);

  private final String code;
  private final String words;
  private final boolean local;

  Way(String code, String words, boolean local) {
    this.code = code;
    this.words = words;
    this.local = local;
  }

  /** Stands in keys; never changes. */
  public String code() {
    return code;
  }

  /** What follows the name of the component in a sentence. */
  public String words() {
    return words;
  }

  /**
   * Whether it happens on the machine or in the process that runs the tests, unless a component is
   * named.
   */
  public boolean isLocal() {
    return local;
  }
}
