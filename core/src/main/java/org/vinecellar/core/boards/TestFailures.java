package org.vinecellar.core.boards;

import org.vinecellar.core.runs.KeptTest;

/**
 * How often a test failed in some runs.
 *
 * @param failed results
 * @param errored results
 * @param runs in which it did either
 */
public record TestFailures(KeptTest test, long failed, long errored, long runs) {}
