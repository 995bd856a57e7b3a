package org.vinecellar.core.boards;

import java.time.Instant;
import org.jspecify.annotations.Nullable;

/**
 * Tests that passed again in one step.
 *
 * @param tests counted once in each run in which they were fixed
 * @param median seconds from when the first run began in which such a test failed, without one
 *     between in which it did not, until that began in which it passed; of half of them. Null when
 *     none is known
 * @param mean the same in the mean
 */
public record MendedCell(Instant at, long tests, @Nullable Double median, @Nullable Double mean) {}
