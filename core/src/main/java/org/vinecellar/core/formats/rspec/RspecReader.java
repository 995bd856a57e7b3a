package org.vinecellar.core.formats.rspec;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FailureKind;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.StackText;
import org.vinecellar.core.formats.json.DocumentReader;
import org.vinecellar.core.formats.json.JsonCursor;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.Outcome;
import org.vinecellar.core.results.ResultKind;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestId;
import org.vinecellar.core.results.TestResult;

/** Reads RSpec's JSON. It names a group only as the beginning of a sentence, which is its suite. */
public final class RspecReader extends DocumentReader {
  @Override
  public String format() {
    return "rspec-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array()
        && json.has("version")
        && (json.has("examples") || json.has("messages") || json.has("seed"));
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new RspecParser(limits, handler, problems);
  }

  private static final class RspecParser extends Parser {
    private final List<String> messages = new ArrayList<>();

    RspecParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "version" -> property("rspec", values.text(document.tree()));
              case "messages" -> messages(document.tree());
              case "examples" -> document.array(() -> example(document.tree()));
              default -> {
                // sums, which the examples tell better
              }
            }
          });
      for (String message : messages) {
        outside(message);
      }
    }

    private void messages(JsonNode found) {
      for (JsonNode message : found) {
        String text = values.text(message);
        if (text != null && text.contains("An error occurred") && messages.size() < 1000) {
          messages.add(text.strip());
        }
      }
    }

    /** What went wrong in no example: a file that does not load, a hook after a group. */
    private void outside(String message) {
      String[] lines = message.split("\n", 2);
      Failure rest = lines.length < 2 ? new Failure(null, null, null) : StackText.parsed(lines[1]);
      String said = rest.message() == null ? lines[0] : lines[0] + "\n" + rest.message();
      emitSetUp(
          SuitePath.ROOT, "outside of examples", new Failure(rest.type(), said, rest.trace()));
    }

    private void example(JsonNode example) {
      String name = values.name(example, "description", "(example without a name)");
      String sentence = values.name(example, "full_description", name);
      String file = values.text(example, "file_path");
      String group =
          sentence.endsWith(name)
              ? sentence.substring(0, sentence.length() - name.length()).strip()
              : "";
      SuitePath suite =
          SuitePath.ROOT.child(group.isEmpty() ? file == null ? "(no group)" : file : group);
      Failure failure = failure(example.path("exception"));
      Attempt attempt =
          new Attempt(
              outcome(example.path("status").asText(), failure),
              Values.micros(example.path("run_time"), 1_000_000),
              failures(example, failure),
              null,
              null);
      emit(
          TestResult.of(
              TestId.of(suite, name, null),
              ResultKind.TEST,
              List.of(attempt),
              null,
              Map.of(),
              file,
              Values.line(example.path("line_number"))));
    }

    private List<Failure> failures(JsonNode example, @Nullable Failure failure) {
      String pending = values.text(example, "pending_message");
      return failure != null
          ? List.of(failure)
          : pending == null ? List.of() : List.of(new Failure(null, pending, null));
    }

    private @Nullable Failure failure(JsonNode exception) {
      if (!exception.isObject()) {
        return null;
      }
      List<String> frames = new ArrayList<>();
      exception.path("backtrace").forEach(frame -> frames.add(frame.asText()));
      String message = values.text(exception, "message");
      return new Failure(
          values.text(exception, "class"),
          message == null ? null : message.strip(),
          frames.isEmpty() ? null : values.cut(String.join("\n", frames)));
    }

    private static Outcome outcome(String status, @Nullable Failure failure) {
      return switch (status) {
        case "passed" -> Outcome.PASSED;
        case "pending" -> Outcome.SKIPPED;
        default -> FailureKind.of(failure == null ? null : failure.type(), null);
      };
    }
  }
}
