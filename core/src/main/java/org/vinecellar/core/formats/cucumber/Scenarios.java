package org.vinecellar.core.formats.cucumber;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;

/** What the feature files say: where each scenario stands, and the words of its steps. */
final class Scenarios {
  private static final int MAX_NODES = 2_000_000;

  private final Values values;

  /** By the id of a scenario, an example row or a step. */
  private final Map<String, Node> nodes = new HashMap<>();

  private final Map<String, Pickle> pickles = new HashMap<>();

  /** A scenario, one of its example rows, or a step. */
  private record Node(
      SuitePath suite,
      String keyword,
      String name,
      int line,
      @Nullable String description,
      @Nullable String row) {}

  /** A scenario as it is to be run. */
  record Pickle(
      TestId test,
      List<String> tags,
      @Nullable String file,
      int line,
      @Nullable String description,
      Map<String, PickleStep> steps) {}

  /** One of its steps. */
  record PickleStep(
      @Nullable String keyword, String text, @Nullable String argument, List<List<String>> table) {}

  Scenarios(Values values) {
    this.values = values;
  }

  @Nullable Pickle pickle(String id) {
    return pickles.get(id);
  }

  /** Takes in a parsed feature file. */
  void document(JsonNode document) {
    JsonNode feature = document.path("feature");
    String uri = document.path("uri").asText();
    SuitePath suite = suite(SuitePath.ROOT, feature, uri.substring(uri.lastIndexOf('/') + 1));
    for (JsonNode child : feature.path("children")) {
      child(suite, child);
      JsonNode rule = child.path("rule");
      if (rule.isObject()) {
        SuitePath inner = suite(suite, rule, "(rule without a name)");
        rule.path("children").forEach(grandchild -> child(inner, grandchild));
      }
    }
  }

  private SuitePath suite(SuitePath outer, JsonNode node, String otherwise) {
    return outer.child(values.name(node, "name", otherwise));
  }

  private void child(SuitePath suite, JsonNode child) {
    steps(suite, child.path("background"));
    JsonNode scenario = child.path("scenario");
    if (!scenario.isObject()) {
      return;
    }
    put(scenario, node(suite, scenario, "name", null));
    steps(suite, scenario);
    for (JsonNode examples : scenario.path("examples")) {
      List<String> heading = cells(examples.path("tableHeader"));
      for (JsonNode row : examples.path("tableBody")) {
        put(row, node(suite, row, "name", row(heading, cells(row))));
      }
    }
  }

  private void steps(SuitePath suite, JsonNode holder) {
    holder.path("steps").forEach(step -> put(step, node(suite, step, "text", null)));
  }

  private Node node(SuitePath suite, JsonNode node, String nameField, @Nullable String row) {
    return new Node(
        suite,
        values.name(node, "keyword", "").strip(),
        values.name(node, nameField, ""),
        Values.line(node.path("location").path("line")),
        values.text(node, "description"),
        row);
  }

  private void put(JsonNode node, Node kept) {
    if (nodes.size() + pickles.size() >= MAX_NODES) {
      throw new UnreadableFileException(
          "holds more than " + MAX_NODES + " scenarios and steps; split it into several files");
    }
    nodes.put(node.path("id").asText(), kept);
  }

  private List<String> cells(JsonNode row) {
    List<String> cells = new ArrayList<>();
    row.path("cells").forEach(cell -> cells.add(values.cut(cell.path("value").asText())));
    return cells;
  }

  private String row(List<String> heading, List<String> cells) {
    List<String> pairs = new ArrayList<>();
    for (int i = 0; i < cells.size(); i++) {
      pairs.add((i < heading.size() ? heading.get(i) + ": " : "") + cells.get(i));
    }
    return values.name("[" + String.join(", ", pairs) + "]");
  }

  /** Takes in a scenario that is to be run. */
  void pickle(JsonNode pickle) {
    Node scenario = null;
    Node row = null;
    for (JsonNode id : pickle.path("astNodeIds")) {
      Node node = nodes.get(id.asText());
      if (node != null && node.row() != null) {
        row = node;
      } else if (node != null) {
        scenario = node;
      }
    }
    String uri = values.name(pickle, "uri", "");
    SuitePath suite =
        scenario == null
            ? SuitePath.ROOT.child(uri.isEmpty() ? "(no feature)" : uri)
            : scenario.suite();
    String name = values.name(pickle, "name", "(scenario without a name)");
    // Rows whose values stand in the name tell themselves apart; all others need the values.
    boolean sameName = scenario != null && row != null && scenario.name().equals(name);
    TestId test = TestId.of(suite, name, sameName && row != null ? row.row() : null);
    List<String> tags = new ArrayList<>();
    pickle.path("tags").forEach(tag -> tags.add(tag(values.name(tag, "name", ""))));
    Map<String, PickleStep> steps = new HashMap<>();
    pickle.path("steps").forEach(step -> steps.put(step.path("id").asText(), step(step)));
    Node placed = row == null ? scenario : row;
    pickles.put(
        pickle.path("id").asText(),
        new Pickle(
            test,
            tags,
            uri.isEmpty() ? null : uri,
            placed == null ? 0 : placed.line(),
            scenario == null ? null : scenario.description(),
            steps));
  }

  static String tag(String name) {
    return name.startsWith("@") ? name.substring(1) : name;
  }

  private PickleStep step(JsonNode step) {
    Node written = nodes.get(step.path("astNodeIds").path(0).asText());
    JsonNode argument = step.path("argument");
    List<List<String>> table = new ArrayList<>();
    argument.path("dataTable").path("rows").forEach(row -> table.add(cells(row)));
    return new PickleStep(
        written == null || written.keyword().isEmpty() ? null : written.keyword(),
        values.name(step, "text", ""),
        values.text(argument.path("docString"), "content"),
        table);
  }

  /** A scenario that was run is not needed again. */
  void drop(String pickleId) {
    pickles.remove(pickleId);
  }
}
