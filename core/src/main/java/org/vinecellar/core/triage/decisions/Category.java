package org.vinecellar.core.triage.decisions;

import java.util.List;
import java.util.Objects;

/**
 * A kind of cause.
 *
 * @param colour a name of a colour of the console
 * @param counts whether its failures fail a gate
 * @param retired whether it is not offered any more
 */
public record Category(long id, String name, String colour, boolean counts, boolean retired) {
  /** What they can be shown in, by names of ours. */
  public static final List<String> COLOURS =
      List.of("claret", "oak", "slate", "amber", "teal", "plum", "moss", "ink");

  /** What a project starts with: the name, and the colour. */
  public record Starter(String name, String colour, boolean counts) {}

  /** In their order. */
  public static final List<Starter> STARTERS =
      List.of(
          new Starter("Product fault", "claret", true),
          new Starter("Test fault", "oak", true),
          new Starter("Environment fault", "slate", false),
          new Starter("Test data fault", "amber", false),
          new Starter("Expected change", "teal", false));

  /** Checks nulls. */
  public Category {
    Objects.requireNonNull(name);
    Objects.requireNonNull(colour);
  }
}
