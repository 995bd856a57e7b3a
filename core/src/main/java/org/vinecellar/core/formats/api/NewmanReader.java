package org.vinecellar.core.formats.api;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
import java.time.Instant;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.json.DocumentReader;
import org.vinecellar.core.formats.json.JsonCursor;
import org.vinecellar.core.formats.json.JsonHead;
import org.vinecellar.core.formats.json.Values;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;

/**
 * Reads Newman's JSON: the collection, a tree of folders and requests, and after it what was
 * executed. What came back is passed over.
 */
public final class NewmanReader extends DocumentReader {
  @Override
  public String format() {
    return "newman-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return !json.array()
        && (json.has("collection", "collection/item")
            || json.has("run", "run/stats", "run/executions"));
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new NewmanParser(limits, handler, problems);
  }

  private static final class NewmanParser extends Parser {
    /** Of each item the folders around it and its own name, from the outermost in. */
    private final Map<String, Place> places = new HashMap<>();

    private final ReadLimits limits;
    private String collection = "(collection without a name)";
    private @Nullable Instant started;
    private int failures;

    private record Place(@Nullable Place outer, String name) {
      SuitePath in(SuitePath root) {
        return (outer == null ? root : outer.in(root)).child(name);
      }
    }

    NewmanParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
      this.limits = limits;
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "collection" -> collection(document);
              case "run" -> run(document);
              default -> {
                // environment and globals, which may hold secrets
              }
            }
          });
      if (failures > 0) {
        failed("it lists " + failures + (failures == 1 ? " failure" : " failures"));
      }
    }

    private void collection(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "info" -> collection = values.name(document.tree(), "name", collection);
              case "item" -> document.array(() -> item(document, null));
              default -> {
                // scripts, variables
              }
            }
          });
    }

    private void item(JsonCursor document, @Nullable Place outer) throws IOException {
      String[] told = new String[2];
      document.object(
          field -> {
            switch (field) {
              case "id" -> told[0] = values.text(document.tree());
              case "name" -> told[1] = values.text(document.tree());
              case "item" -> {
                Place here = new Place(outer, name(told[1]));
                document.array(() -> item(document, here));
              }
              default -> {
                // the request as it was written
              }
            }
          });
      String id = told[0];
      if (id != null && places.size() < limits.maxCases()) {
        places.put(id, new Place(outer, name(told[1])));
      }
    }

    private String name(@Nullable String text) {
      return text == null ? "(request without a name)" : values.name(text);
    }

    private void run(JsonCursor document) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "timings" -> started = Values.time(document.tree().path("started"));
              case "executions" -> document.array(() -> execution(document));
              case "failures" -> document.array(() -> failures++);
              case "error" -> {
                JsonNode error = document.tree();
                if (error.isObject() || error.isTextual()) {
                  String said = values.text(error.isObject() ? error.path("message") : error);
                  brokenOff("the run was given up" + (said == null ? "" : ": " + said));
                }
              }
              default -> {
                // sums
              }
            }
          });
    }

    private void execution(JsonCursor document) throws IOException {
      Exchange exchange = new Exchange();
      String[] item = new String[2];
      int[] iteration = {0};
      document.object(
          field -> {
            switch (field) {
              case "cursor" -> iteration[0] = document.tree().path("iteration").asInt();
              case "item" ->
                  document.object(
                      inner -> {
                        switch (inner) {
                          case "id" -> item[0] = values.text(document.tree());
                          case "name" -> item[1] = values.text(document.tree());
                          default -> {
                            // as above
                          }
                        }
                      });
              case "request" -> request(document, exchange);
              case "response" -> response(document, exchange);
              case "assertions" -> document.array(() -> assertion(document.tree(), exchange));
              case "requestError" -> {
                JsonNode error = document.tree();
                if (error.isObject()) {
                  exchange.wentWrong("request", requestError(error));
                }
              }
              case "prerequestScript" ->
                  document.array(() -> script("pre-request script", document.tree(), exchange));
              case "testScript" ->
                  document.array(() -> script("test script", document.tree(), exchange));
              default -> {
                // ids
              }
            }
          });
      Place place = item[0] == null ? null : places.get(item[0]);
      exchange.emit(
          (place == null ? new Place(null, name(item[1])) : place)
              .in(SuitePath.ROOT.child(collection)),
          iteration[0],
          started,
          this::emit);
    }

    /** Without its query, which may hold secrets. */
    private void request(JsonCursor document, Exchange exchange) throws IOException {
      String[] method = new String[1];
      document.object(
          field -> {
            switch (field) {
              case "method" -> method[0] = values.text(document.tree());
              case "url" -> {
                JsonNode url = document.tree();
                StringBuilder text = new StringBuilder();
                text.append(url.path("protocol").asText("http")).append("://");
                text.append(joined(url.path("host"), "."));
                if (!url.path("port").asText().isEmpty()) {
                  text.append(':').append(url.path("port").asText());
                }
                text.append('/').append(joined(url.path("path"), "/"));
                exchange.tell("request", (method[0] == null ? "" : method[0] + " ") + text);
              }
              default -> {
                // headers and body
              }
            }
          });
      exchange.tell("method", method[0]);
    }

    private static String joined(JsonNode names, String between) {
      StringBuilder text = new StringBuilder();
      for (JsonNode name : names) {
        text.append(text.isEmpty() ? "" : between).append(name.asText());
      }
      return text.toString();
    }

    private void response(JsonCursor document, Exchange exchange) throws IOException {
      document.object(
          field -> {
            switch (field) {
              case "code" -> exchange.tell("status", values.text(document.tree()));
              case "responseTime" -> exchange.took(Values.micros(document.tree(), 1000));
              default -> {
                // what came back
              }
            }
          });
    }

    private void assertion(JsonNode assertion, Exchange exchange) {
      String name = values.name(assertion, "assertion", "(assertion without a name)");
      JsonNode error = assertion.path("error");
      if (error.isObject()) {
        exchange.add(name, failure(error));
      } else {
        exchange.add(name, assertion.path("skipped").asBoolean());
      }
    }

    private void script(String what, JsonNode run, Exchange exchange) {
      JsonNode error = run.path("error");
      if (error.isObject()) {
        exchange.wentWrong(what, failure(error));
      }
    }

    private Failure failure(JsonNode error) {
      return new Failure(
          values.text(error, "name"), values.text(error, "message"), values.text(error, "stack"));
    }

    private Failure requestError(JsonNode error) {
      String message = values.text(error, "message");
      if (message == null) {
        String address = values.text(error, "address");
        String port = values.text(error, "port");
        message =
            error.path("syscall").asText("the request")
                + " "
                + error.path("code").asText("failed")
                + (address == null ? "" : " " + address + (port == null ? "" : ":" + port));
      }
      return new Failure(values.text(error, "code"), message, values.text(error, "stack"));
    }
  }
}
