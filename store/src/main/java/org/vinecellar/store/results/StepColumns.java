package org.vinecellar.store.results;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.JsonNode;
import java.util.List;
import org.jooq.JSONB;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.json.StepJson;
import org.vinecellar.core.results.LogLine;
import org.vinecellar.core.results.Step;
import org.vinecellar.store.sql.Json;

/** Steps and log lines in their columns. The traces of their failures stand with the attempt. */
public final class StepColumns {
  private static final TypeReference<JsonNode> NODE = new TypeReference<>() {};
  private static final StepJson.Extent EXTENT = new StepJson.Extent(Integer.MAX_VALUE, true, false);

  private StepColumns() {}

  /** The column's value; null for no steps. */
  public static @Nullable String ofSteps(List<Step> steps) {
    return steps.isEmpty() ? null : StepJson.ofSteps(steps, EXTENT).toString();
  }

  /** The column's value; null for no lines. */
  public static @Nullable String ofLogs(List<LogLine> lines) {
    return lines.isEmpty() ? null : StepJson.ofLogs(lines, EXTENT).toString();
  }

  /** Steps out of their column. */
  public static List<Step> steps(@Nullable JSONB column) {
    return column == null ? List.of() : StepJson.steps(Json.read(column.data(), NODE));
  }

  /** Log lines out of their column. */
  public static List<LogLine> logs(@Nullable JSONB column) {
    return column == null ? List.of() : StepJson.logs(Json.read(column.data(), NODE));
  }
}
