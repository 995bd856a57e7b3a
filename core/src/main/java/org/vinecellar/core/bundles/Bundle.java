package org.vinecellar.core.bundles;

import java.time.Instant;

/**
 * A bundle of a run.
 *
 * @param indexPath the file that opens first
 */
public record Bundle(
    long id,
    long runId,
    String stream,
    int runNumber,
    String title,
    String indexPath,
    Instant createdAt,
    int files,
    long bytes) {}
