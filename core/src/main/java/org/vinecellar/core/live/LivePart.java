package org.vinecellar.core.live;

/**
 * A part that is being sent.
 *
 * @param number of the run in its stream
 */
public record LivePart(int projectId, long runId, int partNo, String stream, int number) {}
