package org.vinecellar.service.runs;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.attachments.MediaTypes;
import org.vinecellar.core.runs.KeptAttachment;

/**
 * What a test left behind.
 *
 * @param kind how it can be shown: as an image, a video, as text, or not at all
 * @param kept false when it was named but not sent, or was too large
 */
@Schema(name = "Attachment")
public record AttachmentBody(
    String id,
    String name,
    String mediaType,
    @Schema(enumeration = {"image", "video", "text", "other"}) String kind,
    long bytes,
    boolean kept) {
  static AttachmentBody of(KeptAttachment a) {
    String type = a.mediaType();
    String kind =
        MediaTypes.isHarmless(type)
            ? type.substring(0, type.indexOf('/'))
            : MediaTypes.isText(type) ? "text" : "other";
    return new AttachmentBody(a.id().toString(), a.name(), type, kind, a.bytes(), a.kept());
  }
}
