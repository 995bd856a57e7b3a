package org.vinecellar.core.contents;

/**
 * A content that was kept. Each reading is for itself: nothing is held between two, so that a slow
 * reader costs nothing but memory for one piece. Thread-safe.
 */
public interface Content {
  /** How many bytes it has. */
  long size();

  /**
   * Reads a piece.
   *
   * @param offset of its first byte, from 0
   * @param most bytes that are wanted
   * @return at least one byte and perhaps fewer than wanted; empty at the end, or when the content
   *     was deleted meanwhile
   */
  byte[] read(long offset, int most);
}
