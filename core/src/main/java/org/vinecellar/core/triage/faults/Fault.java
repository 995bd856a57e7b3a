package org.vinecellar.core.triage.faults;

import java.util.Objects;

/**
 * A fault of the environment.
 *
 * @param way of failing
 * @param host what the component is called, without what tells its replicas apart; empty where
 *     unknown
 * @param kind of component, e.g. {@code postgres}; empty where unknown
 */
public record Fault(Way way, String host, String kind) {
  /** Checks nulls. */
  public Fault {
    Objects.requireNonNull(way);
    Objects.requireNonNull(host);
    Objects.requireNonNull(kind);
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
    String who = component().isEmpty() ? "a component that is not named" : "`" + component() + "`";
    return who + " " + way.words();
  }
}
