package org.vinecellar.core.formats.xml;

import org.vinecellar.core.formats.UnreadableFileException;

/**
 * Watches how long one text and one tag become. The tokenizer gathers each as a whole, so what is
 * too long must not reach it: of a text the rest is dropped, a tag is refused. Looks at pieces of
 * clean UTF-8, each of whole characters, and in most of them only for the first and the last {@code
 * <}.
 */
final class XmlRuns {
  /** No reference is longer; see {@link XmlReferences}. */
  private static final int LONGEST_REFERENCE = 12;

  private final long most;
  private long run;
  private boolean inTag;
  private int inCdata = -1;
  private boolean dropping;
  private boolean inReference;
  private int cut;

  /**
   * @param most bytes of one text or tag
   */
  XmlRuns(long most) {
    this.most = most;
  }

  /** How many texts were cut. */
  int cut() {
    return cut;
  }

  /**
   * Takes the next piece.
   *
   * @param cdata when its end is inside CDATA, how many sections ended before; else -1
   * @param comment whether its end is inside a comment
   * @return how many of its bytes are to be handed on: all, none, or the end of a reference
   * @throws UnreadableFileException for a tag that is too long
   */
  int take(byte[] bytes, int from, int to, int cdata, boolean comment) {
    if (cdata >= 0) {
      return cdata(to - from, cdata);
    }
    boolean ended = inCdata >= 0;
    inCdata = -1;
    if (ended || comment) {
      begin(false, 0);
      return to - from;
    }
    int last = last(bytes, from, to, '<');
    if (last >= from) {
      begin(last(bytes, last, to, '>') < last, to - last);
      inReference = !inTag && endsInReference(bytes, from, to);
      return to - from;
    }
    int closed = inTag ? last(bytes, from, to, '>') : -1;
    if (closed >= from) {
      begin(false, to - closed);
      inReference = endsInReference(bytes, from, to);
      return to - from;
    }
    run += to - from;
    return inTag ? tag(to - from) : text(bytes, from, to);
  }

  private void begin(boolean tag, int length) {
    inTag = tag;
    run = length;
    dropping = false;
    inReference = false;
  }

  private int tag(int length) {
    if (run > most) {
      throw new UnreadableFileException(
          "has a tag, or a value in one, of more than "
              + most
              + " bytes; write long texts as text");
    }
    return length;
  }

  private int text(byte[] bytes, int from, int to) {
    if (run <= most) {
      inReference = endsInReference(bytes, from, to);
      return to - from;
    }
    // A reference that was begun is handed on to its end, or what is left would not be well-formed.
    int kept = !dropping && inReference ? referenceEnd(bytes, from, to) : 0;
    drop();
    return kept;
  }

  private static boolean endsInReference(byte[] bytes, int from, int to) {
    int tail = Math.max(from, to - LONGEST_REFERENCE);
    return last(bytes, tail, to, '&') > last(bytes, tail, to, ';');
  }

  private static int referenceEnd(byte[] bytes, int from, int to) {
    for (int at = from; at < Math.min(to, from + LONGEST_REFERENCE); at++) {
      if (bytes[at] == ';') {
        return at - from + 1;
      }
    }
    return 0;
  }

  private int cdata(int length, int section) {
    boolean whole = inCdata == section;
    inCdata = section;
    if (!whole) {
      begin(false, length);
      return length;
    }
    run += length;
    if (run <= most) {
      return length;
    }
    drop();
    return 0;
  }

  private void drop() {
    if (!dropping) {
      cut++;
    }
    dropping = true;
  }

  private static int last(byte[] bytes, int from, int to, char wanted) {
    int at = to - 1;
    while (at >= from && bytes[at] != wanted) {
      at--;
    }
    return at >= from ? at : -1;
  }
}
