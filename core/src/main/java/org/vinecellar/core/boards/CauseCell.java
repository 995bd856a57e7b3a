package org.vinecellar.core.boards;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Failing results of a step with the same explanation.
 *
 * @param at when the step began
 * @param category null for those that nobody explained
 */
public record CauseCell(Instant at, @Nullable String category, long results) {}
