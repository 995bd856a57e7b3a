package org.vinecellar.core.trust.evidence;

import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.stream.Collectors;

/** Which labels of a run tell where it ran; others tell whose it is, or what for. */
public final class Environments {
  /** In the order in which they are told. */
  public static final List<String> LABELS =
      List.of(
          "env",
          "environment",
          "stage",
          "region",
          "os",
          "platform",
          "arch",
          "device",
          "browser",
          "jdk",
          "java",
          "python",
          "node",
          "runtime",
          "database");

  private Environments() {}

  /** The environment of a run with these labels, as {@code env=staging,os=linux}. */
  public static String of(Map<String, String> labels) {
    return LABELS.stream()
        .filter(labels::containsKey)
        .map(key -> key + "=" + Objects.requireNonNull(labels.get(key)))
        .collect(Collectors.joining(","));
  }
}
