package org.vinecellar.service.reports;

import com.fasterxml.jackson.databind.ObjectMapper;
import io.vertx.core.http.HttpServerRequest;
import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.QueryParam;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.StreamingOutput;
import java.nio.charset.StandardCharsets;
import java.time.Instant;
import java.time.InstantSource;
import java.time.LocalDate;
import java.time.ZoneOffset;
import java.time.format.DateTimeParseException;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.stream.Collectors;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.enums.SchemaType;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.boards.BoardFacts;
import org.vinecellar.core.boards.Dimension;
import org.vinecellar.core.boards.FailureFacts;
import org.vinecellar.core.boards.Period;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.reports.Report;
import org.vinecellar.core.reports.ReportFacts;
import org.vinecellar.core.reports.ReportKind;
import org.vinecellar.core.reports.Reports;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.filters.FilterReader;
import org.vinecellar.service.guard.PublicAddress;

/** What happened over a time. */
@Path("/api/v1/projects/{project}/reports")
@Tag(name = "reports")
@Produces(MediaType.APPLICATION_JSON)
public class ReportResource {
  private static final int USUAL_DAYS = 30;
  private static final int MOST_ROWS = 200;
  private static final String USUAL_BY = "label.env";

  private final Reports reports;
  private final ReportFiles files;
  private final FilterReader filters;
  private final Caller caller;
  private final PublicAddress address;
  private final ObjectMapper json;
  private final InstantSource clock;

  ReportResource(
      BoardFacts boards,
      FailureFacts failures,
      ReportFacts facts,
      ReportFiles files,
      FilterReader filters,
      Caller caller,
      PublicAddress address,
      ObjectMapper json,
      InstantSource clock) {
    this.reports = new Reports(boards, failures, facts);
    this.files = files;
    this.filters = filters;
    this.caller = caller;
    this.address = address;
    this.json = json;
    this.clock = clock;
  }

  /**
   * A report that there is.
   *
   * @param tables the words of those that it can have
   */
  @Schema(name = "ReportKind")
  public record KindBody(String word, String title, List<String> tables) {}

  /**
   * Of what it tells.
   *
   * @param from the first day, of UTC
   * @param to the last day; today when left out
   * @param days in place of both: so many latest ones, 30 when nothing is said
   * @param filter of runs; all when left out
   * @param by in a breakdown, what runs are told apart by: one to three, with commas between
   */
  private record Asked(
      @Nullable String from,
      @Nullable String to,
      @Nullable Integer days,
      @Nullable String filter,
      @Nullable String by) {}

  /**
   * How a report is shaped.
   *
   * @param template in the Mustache language
   * @param escape how texts are made harmless: none (the usual), html, json or csv
   */
  @Schema(name = "ReportShape")
  public record ShapeBody(
      @Nullable String template, @Schema(nullable = true) @Nullable String escape) {}

  @GET
  @Operation(operationId = "listReports", summary = "Reports that there are")
  public List<KindBody> kinds(@PathParam("project") String key) {
    caller.project(key, Right.READ);
    return Arrays.stream(ReportKind.values())
        .map(kind -> new KindBody(kind.word(), kind.title(), kind.tables()))
        .toList();
  }

  @GET
  @Path("{report}")
  @Operation(
      operationId = "getReport",
      summary =
          "What happened over a time: summary, tests, breakdown or people. From a day to another of"
              + " UTC, or of so many latest days; filter is of runs, by is of a breakdown; of each"
              + " table at most so many rows, 200 when nothing is said: report.json has all")
  public ReportBody report(
      @PathParam("project") String key,
      @PathParam("report") String word,
      @QueryParam("from") @Nullable String from,
      @QueryParam("to") @Nullable String to,
      @QueryParam("days") @Nullable Integer days,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("by") @Nullable String by,
      @QueryParam("rows") @Nullable Integer rows) {
    Project project = caller.project(key, Right.READ);
    if (rows != null && (rows < 1 || rows > MOST_ROWS)) {
      throw invalid(
          "rows is " + rows + "; it goes from 1 to " + MOST_ROWS + ", and report.json has all");
    }
    Report report = made(project, word, new Asked(from, to, days, filter, by));
    return ReportBody.of(report.cut(rows == null ? MOST_ROWS : rows));
  }

  @GET
  @Path("{report}/{file}")
  @Operation(
      operationId = "getReportAsFile",
      summary =
          "The same as a file: report.csv (one table, by its word), report.xlsx, report.md,"
              + " report.json or report.html")
  @APIResponse(
      responseCode = "200",
      content = @Content(schema = @Schema(type = SchemaType.STRING, format = "binary")))
  @Produces(MediaType.WILDCARD)
  public Response file(
      @PathParam("project") String key,
      @PathParam("report") String word,
      @PathParam("file") String name,
      @QueryParam("from") @Nullable String from,
      @QueryParam("to") @Nullable String to,
      @QueryParam("days") @Nullable Integer days,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("by") @Nullable String by,
      @QueryParam("table") @Nullable String table,
      @Context HttpServerRequest request) {
    Project project = caller.project(key, Right.READ);
    ReportFile form =
        ReportFile.ofWord(name.startsWith("report.") ? name.substring("report.".length()) : "")
            .orElseThrow(
                () ->
                    new CellarException(
                        ProblemCode.NOT_FOUND,
                        "a report is no “"
                            + name
                            + "”; ask for "
                            + Arrays.stream(ReportFile.values())
                                .map(one -> "report." + one.word())
                                .collect(Collectors.joining(", "))));
    String one = table == null ? "" : table.strip();
    Where where = where(project, request);
    Asked asked = new Asked(from, to, days, filter, by);
    Period period = period(asked, clock.instant());
    StreamingOutput out =
        files.made(
            bytes -> {
              Report report = made(project, word, asked);
              if (!one.isEmpty()) {
                Report.Table unused = report.table(one);
              }
              form.write(report, one, where, json, bytes);
            });
    return attached(Response.ok(out, form.type()), word, period, one, form.word());
  }

  @POST
  @Path("{report}/shaped")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "shapeReport",
      summary = "The same in the shape of a template of one’s own; nothing is kept")
  @APIResponse(
      responseCode = "200",
      content =
          @Content(
              mediaType = MediaType.TEXT_PLAIN,
              schema = @Schema(type = SchemaType.STRING, format = "binary")))
  @Produces(MediaType.WILDCARD)
  public Response shaped(
      @PathParam("project") String key,
      @PathParam("report") String word,
      @QueryParam("from") @Nullable String from,
      @QueryParam("to") @Nullable String to,
      @QueryParam("days") @Nullable Integer days,
      @QueryParam("filter") @Nullable String filter,
      @QueryParam("by") @Nullable String by,
      @Nullable ShapeBody body,
      @Context HttpServerRequest request) {
    Project project = caller.project(key, Right.READ);
    String template = body == null ? null : body.template();
    if (body == null || template == null) {
      throw invalid("say the template, as JSON: template, and escape where texts need it");
    }
    Shaping.Escape escape = Shaping.Escape.ofWord(body.escape());
    Where where = where(project, request);
    Asked asked = new Asked(from, to, days, filter, by);
    Period period = period(asked, clock.instant());
    StreamingOutput out =
        files.made(
            bytes ->
                bytes.write(
                    Shaping.shape(made(project, word, asked), where, template, escape)
                        .getBytes(StandardCharsets.UTF_8)));
    return attached(Response.ok(out, "text/plain; charset=utf-8"), word, period, "", "txt");
  }

  private static Response attached(
      Response.ResponseBuilder answer, String report, Period period, String table, String end) {
    String name =
        report
            + (table.isEmpty() ? "" : "-" + table)
            + "-"
            + period.from().toString().substring(0, "2026-01-01".length());
    return answer
        .header(
            "Content-Disposition",
            "attachment; filename=\"" + name.toLowerCase(Locale.ROOT) + "." + end + "\"")
        .build();
  }

  private Where where(Project project, HttpServerRequest request) {
    return new Where(address.base(request), project.key(), project.name());
  }

  private Report made(Project project, String word, Asked said) {
    Instant now = clock.instant();
    ReportKind kind = ReportKind.of(word);
    String by = said.by() == null || said.by().isBlank() ? USUAL_BY : said.by();
    String filter = said.filter() == null ? "" : said.filter().strip();
    Reports.Asked asked =
        new Reports.Asked(
            kind,
            period(said, now),
            filter,
            kind == ReportKind.BREAKDOWN
                ? Arrays.stream(by.split(","))
                    .map(String::strip)
                    .filter(one -> !one.isEmpty())
                    .distinct()
                    .map(Dimension::of)
                    .toList()
                : List.of());
    return reports.report(project.id(), asked, filters.names(project), now);
  }

  private static Period period(Asked said, Instant now) {
    boolean days = said.days() != null;
    boolean dates = said.from() != null || said.to() != null;
    if (days && dates) {
      throw invalid("say from and to, or days, not both");
    }
    if (!dates) {
      return Period.ofDays(days ? Objects.requireNonNull(said.days()) : USUAL_DAYS, now);
    }
    if (said.from() == null) {
      throw invalid("say from which day on; to alone is no period");
    }
    LocalDate today = LocalDate.ofInstant(now, ZoneOffset.UTC);
    return Period.between(
        day("from", said.from()), said.to() == null ? today : day("to", said.to()));
  }

  private static LocalDate day(String name, String text) {
    try {
      return LocalDate.parse(text.strip());
    } catch (DateTimeParseException e) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, name + " is “" + text + "”; write a day as in 2026-11-30", e);
    }
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
