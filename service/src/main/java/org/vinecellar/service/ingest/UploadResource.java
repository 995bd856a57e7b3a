package org.vinecellar.service.ingest;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.Context;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import jakarta.ws.rs.core.UriInfo;
import java.time.Instant;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Content;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.responses.APIResponse;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jboss.resteasy.reactive.RestForm;
import org.jboss.resteasy.reactive.multipart.FileUpload;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.formats.Timestamps;
import org.vinecellar.core.formats.csv.CsvColumns;
import org.vinecellar.core.ingest.Ingest;
import org.vinecellar.core.ingest.Receipt;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.access.Caller;

/** Takes uploads in: a form with files, from the client or from curl. */
@Path("/api/v1/projects/{project}/uploads")
@Tag(name = "ingest")
@Produces(MediaType.APPLICATION_JSON)
public class UploadResource {
  private final Ingest ingest;
  private final UploadGate gate;
  private final BundleFields bundles;
  private final Caller caller;

  UploadResource(Ingest ingest, UploadGate gate, BundleFields bundles, Caller caller) {
    this.ingest = ingest;
    this.bundles = bundles;
    this.gate = gate;
    this.caller = caller;
  }

  private static final Set<String> FIELDS =
      Set.of(
          "file",
          "stream",
          "run",
          "part",
          "commit",
          "branch",
          "build_url",
          "label",
          "expect_parts",
          "attachment",
          "column",
          "at",
          "live",
          "bundle",
          "bundle_title",
          "bundle_index",
          "allow_empty");

  @POST
  @Consumes(MediaType.MULTIPART_FORM_DATA)
  @Operation(
      operationId = "upload",
      summary = "Send result files; all of them are kept, or none",
      description =
          "Form fields: file (once or more, plain or packed with gzip), stream, and if wanted run,"
              + " part, commit, branch, build_url, label (key=value, once or more), expect_parts,"
              + " attachment (a file that results name, once or more), column (FIELD=HEADING, of"
              + " tables), at (when it was, ISO 8601), live (a"
              + " live part whose place it takes), bundle (a zip file"
              + " of HTML), bundle_title, bundle_index, allow_empty."
              + " Sending the same files to the same run again changes nothing.")
  @APIResponse(
      responseCode = "201",
      content = @Content(schema = @Schema(implementation = ReceiptBody.class)))
  public Response upload(
      @PathParam("project") String projectKey,
      @RestForm("file") @Nullable List<FileUpload> files,
      @RestForm("stream") @Nullable String stream,
      @RestForm("run") @Nullable String run,
      @RestForm("part") @Nullable String part,
      @RestForm("commit") @Nullable String commit,
      @RestForm("branch") @Nullable String branch,
      @RestForm("build_url") @Nullable String buildUrl,
      @RestForm("label") @Nullable List<String> labels,
      @RestForm("expect_parts") @Nullable String expectParts,
      @RestForm("attachment") @Nullable List<FileUpload> attachments,
      @RestForm("column") @Nullable List<String> columns,
      @RestForm("bundle") @Nullable FileUpload bundle,
      @RestForm("bundle_title") @Nullable String bundleTitle,
      @RestForm("bundle_index") @Nullable String bundleIndex,
      @RestForm("at") @Nullable String at,
      @RestForm("live") @Nullable String live,
      @RestForm("allow_empty") @Nullable String allowEmpty,
      @Context UriInfo uri) {
    Project project = caller.project(projectKey);
    FormFields.check(FIELDS);
    if (stream == null) {
      throw invalid("the form has no field “stream”; name the stream that the results belong to");
    }
    if (files == null || files.isEmpty()) {
      throw invalid("the form has no field “file”; send at least one result file");
    }
    UploadRequest request =
        new UploadRequest(
            project.id(),
            stream,
            run,
            part,
            commit,
            branch,
            buildUrl,
            labels(labels),
            number(expectParts),
            time(at),
            livePart(live),
            CsvColumns.of(columns == null ? List.of() : columns),
            "true".equals(allowEmpty));
    List<FormFile> sources = files.stream().map(FormFile::new).toList();
    List<FormFile> beside =
        attachments == null ? List.of() : attachments.stream().map(FormFile::new).toList();
    BundleFields.Checked checked =
        bundles.check(project.id(), stream, bundle, bundleTitle, bundleIndex);
    Receipt receipt =
        gate.pass(
            () -> {
              Receipt taken = ingest.receive(request, sources, beside);
              bundles.keep(project.id(), taken, checked);
              return taken;
            });
    ReceiptBody body = ReceiptBody.of(receipt, project.key(), uri.getBaseUri());
    return Response.status(receipt.duplicate() ? 200 : 201).entity(body).build();
  }

  private static Map<String, String> labels(@Nullable List<String> pairs) {
    Map<String, String> labels = new LinkedHashMap<>();
    for (String pair : pairs == null ? List.<String>of() : pairs) {
      int equals = pair.indexOf('=');
      if (equals < 1) {
        throw invalid("the label “" + pair + "” is not of the form key=value");
      }
      String key = pair.substring(0, equals);
      String value = pair.substring(equals + 1);
      String before = labels.putIfAbsent(key, value);
      if (before != null && !before.equals(value)) {
        throw invalid(
            "the label “" + key + "” is given twice, as “" + before + "” and as “" + value + "”");
      }
    }
    return labels;
  }

  private static @Nullable Integer number(@Nullable String text) {
    if (text == null) {
      return null;
    }
    if (!text.matches("[0-9]{1,6}")) {
      throw invalid("expect_parts is “" + text + "”, which is not a number");
    }
    return Integer.valueOf(text);
  }

  /** The number of the part in what the portal called a live part. */
  private static @Nullable Integer livePart(@Nullable String live) {
    if (live == null) {
      return null;
    }
    if (!live.matches("[0-9]{1,15}-[0-9]{1,7}")) {
      throw invalid("live is “" + live + "”, which names no live part");
    }
    return Integer.valueOf(live.substring(live.indexOf('-') + 1));
  }

  private static @Nullable Instant time(@Nullable String text) {
    Instant at = text == null ? null : Timestamps.parse(text);
    if (text != null && at == null) {
      throw invalid("at is “" + text + "”, which is no time like 2026-11-20T06:00:00Z");
    }
    return at;
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
