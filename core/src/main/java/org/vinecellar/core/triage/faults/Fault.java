package org.vinecellar.core.triage.faults;

import java.util.Objects;

/**
 * A fault of the environment.
 *
 * @param way of failing
 * @param host what the component is called, without what tells its replicas apart; empty where
 *     unknown
 * @param kind of component, e.g. {@code postgres}; empty where unknown
 * @param shown the host as this text printed it, but for domains; empty where unknown
 */
public record Fault(Way way, String host, String kind, String shown) {
  /** Checks nulls. */
  public Fault {
    Objects.requireNonNull(way);
    Objects.requireNonNull(host);
    Objects.requireNonNull(kind);
    Objects.requireNonNull(shown);
  }

  /** Whether it is known which component it is, and not only of which kind. */
  public boolean isNamed() {
    return !host.isEmpty() || (way.isLocal() && !kind.isEmpty());
  }

  /** What to call the component. */
  public String component() {
    return host.isEmpty() ? kind : host;
  }

  /** One sentence. */
  public String sentence() {
    String named = shown.isEmpty() ? component() : shown;
    String who = named.isEmpty() ? "a component that is not named" : "`" + named + "`";
    return who + " " + way.words();
  }
}
