package org.vinecellar.core.runs;

import org.vinecellar.core.attachments.AttachmentId;

/**
 * An attachment as it was kept.
 *
 * @param mediaType told by its content
 * @param bytes its size; 0 when it was not sent
 * @param kept false when the result file names a file that was not sent, or was too large
 */
public record KeptAttachment(
    AttachmentId id, String name, String mediaType, long bytes, boolean kept) {}
