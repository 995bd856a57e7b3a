package org.vinecellar.bench.figures;

/**
 * One figure.
 *
 * @param bar the least that it shall be
 */
public record Figure(String what, double measured, double bar) {}
