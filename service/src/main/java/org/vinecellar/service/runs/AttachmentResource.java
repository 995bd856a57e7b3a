package org.vinecellar.service.runs;

import jakarta.ws.rs.GET;
import jakarta.ws.rs.HeaderParam;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import jakarta.ws.rs.core.Response;
import java.net.URLEncoder;
import java.nio.charset.StandardCharsets;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.attachments.AttachmentId;
import org.vinecellar.core.attachments.MediaTypes;
import org.vinecellar.core.contents.Content;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.KeptAttachment;
import org.vinecellar.core.runs.RunStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.web.ByteRange;
import org.vinecellar.service.web.Downloads;

/**
 * Contents of attachments. They come from outside, so none may run or reach anything here: only
 * images and videos go out as what they are, markup as plain text, all else for download.
 */
@Path("/api/v1/projects/{project}/runs/{run}/attachments/{attachment}")
@Tag(name = "runs")
public class AttachmentResource {
  /** RFC 9110 section 14.1.2, with one range; others are answered with the whole. */
  private final RunStore store;

  private final Caller caller;
  private final Downloads downloads;

  AttachmentResource(RunStore store, Caller caller, Downloads downloads) {
    this.store = store;
    this.downloads = downloads;
    this.caller = caller;
  }

  @GET
  @Produces(MediaType.WILDCARD)
  @Operation(operationId = "getAttachment", summary = "The content of an attachment")
  public Response content(
      @PathParam("project") String key,
      @PathParam("run") long run,
      @PathParam("attachment") String attachment,
      @HeaderParam("Range") @Nullable String range) {
    Project project = caller.project(key, Right.READ);
    KeptAttachment found =
        AttachmentId.parse(attachment)
            .flatMap(id -> store.attachment(project.id(), run, id))
            .filter(KeptAttachment::kept)
            .orElseThrow(() -> noContent(run, attachment));
    ByteRange wanted = ByteRange.of(range, found.bytes());
    Content content =
        store.content(project.id(), run, found.id()).orElseThrow(() -> noContent(run, attachment));
    Response.ResponseBuilder response =
        downloads
            .response(content, wanted.from(), wanted.count())
            .status(wanted.status())
            .header("Content-Type", sentType(found.mediaType()))
            .header("Accept-Ranges", "bytes")
            .header("Content-Disposition", disposition(found))
            .header("Content-Security-Policy", "default-src 'none'; sandbox")
            .header("Cache-Control", "private, max-age=31536000, immutable");
    if (wanted.partial()) {
      response.header("Content-Range", wanted.header());
    }
    return response.build();
  }

  private static CellarException noContent(long run, String attachment) {
    String shown = attachment.length() > 80 ? attachment.substring(0, 80) + "…" : attachment;
    return new CellarException(
        ProblemCode.NOT_FOUND, "run " + run + " has no content of an attachment “" + shown + "”");
  }

  private static String sentType(String mediaType) {
    return MediaTypes.isHarmless(mediaType)
        ? mediaType
        : MediaTypes.isText(mediaType) ? "text/plain; charset=utf-8" : MediaTypes.UNKNOWN;
  }

  /** The name by RFC 6266, in the form that needs no quoting. */
  private static String disposition(KeptAttachment attachment) {
    boolean shown =
        MediaTypes.isHarmless(attachment.mediaType()) || MediaTypes.isText(attachment.mediaType());
    String name = attachment.name().substring(attachment.name().lastIndexOf('/') + 1);
    return (shown ? "inline" : "attachment")
        + "; filename*=UTF-8''"
        + URLEncoder.encode(name, StandardCharsets.UTF_8).replace("+", "%20");
  }
}
