package org.vinecellar.core.formats.api;

import com.fasterxml.jackson.databind.JsonNode;
import java.io.IOException;
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

/** Reads Bruno's JSON: a list of iterations, each with its requests. What came back is left out. */
public final class BrunoReader extends DocumentReader {
  @Override
  public String format() {
    return "bruno-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return json.array() && json.has("iterationIndex", "results");
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new BrunoParser(limits, handler, problems);
  }

  private static final class BrunoParser extends Parser {
    BrunoParser(ReadLimits limits, CaseHandler handler, Problems problems) {
      super(limits, handler, problems);
    }

    @Override
    protected void document(JsonCursor document) throws IOException {
      document.array(
          () ->
              document.object(
                  field -> {
                    switch (field) {
                      case "results" -> document.array(() -> request(document));
                      case "summary" -> summary(document.tree());
                      default -> {
                        // its number, which each request has too
                      }
                    }
                  }));
    }

    private void summary(JsonNode summary) {
      int failed = 0;
      for (String count :
          new String[] {"failedRequests", "errorRequests", "failedTests", "failedAssertions"}) {
        failed += Math.max(0, summary.path(count).asInt());
      }
      if (failed > 0) {
        failed("its summary counts failed requests, assertions or tests");
      }
    }

    private void request(JsonCursor document) throws IOException {
      Exchange exchange = new Exchange();
      String[] told = new String[5];
      int[] iteration = {0};
      document.object(
          field -> {
            switch (field) {
              case "name" -> told[0] = values.text(document.tree());
              case "test" -> told[1] = values.text(document.tree(), "filename");
              case "error" -> told[2] = values.text(document.tree());
              case "status" -> told[3] = values.text(document.tree());
              case "iterationIndex" -> iteration[0] = document.tree().asInt();
              case "request" ->
                  document.object(
                      inner -> {
                        switch (inner) {
                          case "method" -> told[4] = values.text(document.tree());
                          case "url" -> exchange.tell("request", address(document, told[4]));
                          default -> {
                            // headers and body
                          }
                        }
                      });
              case "response" ->
                  document.object(
                      inner -> {
                        switch (inner) {
                          case "status" -> exchange.tell("status", values.text(document.tree()));
                          case "responseTime" ->
                              exchange.took(Values.micros(document.tree(), 1000));
                          default -> {
                            // what came back
                          }
                        }
                      });
              case "assertionResults",
                  "testResults",
                  "preRequestTestResults",
                  "postResponseTestResults" ->
                  document.array(() -> assertion(document.tree(), exchange));
              default -> {
                // names of folders, which the file tells too
              }
            }
          });
      String error = told[2];
      if (error != null) {
        exchange.wentWrong("request", new Failure("error", error, null));
      } else if (exchange.isEmpty() && "skipped".equals(told[3])) {
        exchange.add("request", true);
      } else if (exchange.isEmpty() && told[3] != null && !"pass".equals(told[3])) {
        exchange.wentWrong("request", new Failure("error", "its status is " + told[3], null));
      }
      exchange.emit(suite(told[1], told[0]), iteration[0], null, this::emit);
    }

    /** Without its query, which may hold secrets. */
    private @Nullable String address(JsonCursor document, @Nullable String method)
        throws IOException {
      String url = values.text(document.tree());
      if (url == null) {
        return null;
      }
      int query = url.indexOf('?');
      return (method == null ? "" : method + " ") + (query < 0 ? url : url.substring(0, query));
    }

    /** The folders of its file, and its own name. */
    private SuitePath suite(@Nullable String file, @Nullable String name) {
      SuitePath suite = SuitePath.ROOT;
      String[] folders = file == null ? new String[0] : file.replace('\\', '/').split("/");
      for (int i = 0; i < folders.length - 1; i++) {
        suite = folders[i].isBlank() ? suite : suite.child(values.name(folders[i]));
      }
      String last =
          folders.length == 0 ? "" : folders[folders.length - 1].replaceAll("\\.\\w+$", "");
      String own = name == null ? last : values.name(name);
      return suite.child(own.isBlank() ? "(request without a name)" : own);
    }

    private void assertion(JsonNode assertion, Exchange exchange) {
      String expression = values.text(assertion, "lhsExpr");
      String name =
          expression == null
              ? values.name(assertion, "description", "(test without a name)")
              : values.name(expression + " " + assertion.path("rhsExpr").asText());
      String status = assertion.path("status").asText();
      String error = values.text(assertion, "error");
      if (assertion.path("isScriptError").asBoolean()) {
        exchange.wentWrong("test script", new Failure("error", error, null));
      } else if (status.equals("pass")) {
        exchange.add(name, false);
      } else if (status.equals("skipped")) {
        exchange.add(name, true);
      } else {
        exchange.add(name, new Failure("AssertionError", error, null));
      }
    }
  }
}
