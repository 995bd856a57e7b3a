package org.vinecellar.core.boards;

/**
 * What somebody did for failure groups.
 *
 * @param explained groups on which they decided something in the period that stands
 * @param assigned groups that are given to them now, and still have something to explain
 */
public record PersonCell(String who, int explained, int assigned) {}
