package org.vinecellar.core.boards;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Failure groups that were found in one step.
 *
 * @param groups of it
 * @param explained those of them that something explains by now
 * @param median seconds from when they were found until they were explained, of half of those; null
 *     when none is
 * @param mean the same in the mean
 */
public record ExplainedCell(
    Instant at, int groups, int explained, @Nullable Double median, @Nullable Double mean) {}
