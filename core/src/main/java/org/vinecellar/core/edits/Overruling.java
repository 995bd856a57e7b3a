package org.vinecellar.core.edits;

import java.time.Instant;
import org.vinecellar.core.results.Outcome;

/**
 * An outcome that somebody set over the reported one.
 *
 * @param by login of a person, or {@code token “NAME”}
 */
public record Overruling(Outcome reported, String reason, Instant at, String by) {}
