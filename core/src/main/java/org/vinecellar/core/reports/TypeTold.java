package org.vinecellar.core.reports;

import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;

/**
 * How often a type of failure was thrown. Types that differ in the case of their letters alone are
 * one, as they are to filters.
 *
 * @param test null for all together
 * @param results with such a try
 * @param tests that have them
 * @param runs that have them
 */
public record TypeTold(@Nullable KeptTest test, String type, long results, int tests, int runs) {}
