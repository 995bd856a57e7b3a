package org.vinecellar.core.runs;

import org.vinecellar.core.results.Counts;

/** A suite of a run, with what it and the suites inside it hold. */
public record SuiteNode(long id, String name, Counts counts, boolean hasSuites) {}
