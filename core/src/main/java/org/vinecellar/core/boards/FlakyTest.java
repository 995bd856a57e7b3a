package org.vinecellar.core.boards;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;

/**
 * A test that is taken for flaky in a stream, and what it did in some of its runs.
 *
 * @param rate how often it fails by chance, from 0 to 1; null when not known
 * @param low where the interval of that begins
 * @param high where it ends
 * @param failing results that failed or errored in the end
 * @param retried results that passed, after more than one attempt
 */
public record FlakyTest(
    KeptTest test,
    String stream,
    @Nullable Double rate,
    @Nullable Double low,
    @Nullable Double high,
    int failing,
    int retried) {}
