package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.node.TextNode;
import org.jspecify.annotations.Nullable;
import picocli.CommandLine.Option;

/** A saved filter by its name, alone or beside one that is written out. */
final class SavedOption {
  @Option(
      names = "--saved",
      paramLabel = "NAME",
      description = "Only what fits the project’s saved filter of that name, too.")
  private @Nullable String saved;

  /**
   * Both filters as one.
   *
   * @param filter that is written out; null for none
   * @return null for everything
   */
  @Nullable String with(@Nullable String filter) {
    if (saved == null) {
      return filter;
    }
    String named = "saved eq " + TextNode.valueOf(saved);
    return filter == null ? named : "(" + filter + ") and " + named;
  }
}
