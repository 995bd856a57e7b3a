package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.vinecellar.client.http.Portal;

/** Tests of a stream that people name. */
final class Named {
  /** So many that may be meant are told. */
  private static final int FEW = 4;

  private Named() {}

  /**
   * One for each variant of it.
   *
   * @param test its suite and its name, as {@code org.skerrow.FareTest#rounds}
   */
  static JsonNode of(Portal portal, String stream, String test) {
    JsonNode found = portal.get("tests/named", Map.of("stream", stream, "test", test));
    if (!found.isEmpty()) {
      return found;
    }
    Streams.needed(portal, stream);
    String none = "no run of “" + stream + "” has a test “" + test + "”; ";
    List<String> meant = meant(portal, stream, test);
    throw new CommandException(
        ExitCode.NOTHING_FOUND,
        meant.isEmpty()
            ? none
                + "write it as its suite and its name, like FareTest#rounds, with the package"
                + " where the file has one"
            : none + "there is " + String.join(", ", meant));
  }

  /** Those that have that name, in whatever suite. */
  private static List<String> meant(Portal portal, String stream, String test) {
    String name = test.substring(test.lastIndexOf('#') + 1).strip();
    if (name.isEmpty()) {
      return List.of();
    }
    List<String> meant = new ArrayList<>();
    String filter =
        "name eq " + quoted(name) + " and results[run.stream eq " + quoted(stream) + "]";
    for (JsonNode one :
        portal.get("tests", Map.of("filter", filter, "limit", Integer.toString(FEW + 1)))) {
      List<String> suite = new ArrayList<>();
      one.path("suite").forEach(part -> suite.add(part.asText()));
      String last = suite.isEmpty() ? "" : suite.get(suite.size() - 1);
      String parameters = one.path("parameters").asText("");
      meant.add(meant.size() < FEW ? "“" + last + "#" + name + parameters + "”" : "others");
    }
    return meant.stream().distinct().toList();
  }

  private static String quoted(String text) {
    return '"' + text.replace("\\", "\\\\").replace("\"", "\\\"") + '"';
  }
}
