package org.vinecellar.core.triage.code;

import java.util.List;

/**
 * What a project says of its code where names alone do not tell.
 *
 * @param own beginnings of packages, namespaces or paths that are ours
 * @param helpers parts of qualified names or paths that are helpers
 */
public record CodeSettings(List<String> own, List<String> helpers) {
  /** Nothing said. */
  public static final CodeSettings NONE = new CodeSettings(List.of(), List.of());

  /** Copies the lists. */
  public CodeSettings {
    own = List.copyOf(own);
    helpers = List.copyOf(helpers);
  }
}
