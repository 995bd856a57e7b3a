package org.vinecellar.core.work;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Work that is not done yet.
 *
 * @param pieces all of it
 * @param failed of it, what was tried in vain at least once
 * @param oldest when the longest waiting was asked for; null when none waits
 * @param lastError why the latest failed; null when none did
 */
public record Waiting(
    int pieces, int failed, @Nullable Instant oldest, @Nullable String lastError) {}
