package org.vinecellar.service.problem;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.ProblemCode;

/**
 * An error as RFC 9457 has it.
 *
 * @param type {@code urn:vine-cellar:problem:} and the stable code
 * @param files which files are at fault; null when none are
 * @param position where in a filter the fault is, from 0; null elsewhere
 */
@Schema(name = "Problem")
@JsonInclude(JsonInclude.Include.NON_NULL)
public record ProblemBody(
    String type,
    String title,
    int status,
    String detail,
    @Schema(nullable = true) @Nullable List<FileFault> files,
    @Schema(nullable = true) @Nullable Integer position) {
  private static final String PREFIX = "urn:vine-cellar:problem:";

  /** Why one file cannot be read. */
  public record FileFault(String file, String error) {}

  static ProblemBody of(
      ProblemCode code, int status, String detail, @Nullable List<FileFault> files) {
    return new ProblemBody(PREFIX + code.slug(), code.title(), status, detail, files, null);
  }

  ProblemBody at(int place) {
    return new ProblemBody(type, title, status, detail, files, place);
  }

  ProblemBody under(int nearer) {
    return new ProblemBody(type, title, nearer, detail, files, position);
  }
}
