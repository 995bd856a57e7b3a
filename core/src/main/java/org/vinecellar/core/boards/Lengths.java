package org.vinecellar.core.boards;

/**
 * Half, nine of ten and nineteen of twenty took no longer, in microseconds. Between two lengths
 * that there are it is told in proportion (R. J. Hyndman and Y. Fan, "Sample quantiles in
 * statistical packages", 1996, definition 7).
 */
public record Lengths(double median, double p90, double p95) {}
