package org.vinecellar.core.runs;

import java.time.Instant;
import org.vinecellar.core.results.Counts;

/** A run as a point of a strip or trend. */
public record RunPoint(
    int number, Instant startedAt, boolean open, Counts counts, int newFailing) {}
