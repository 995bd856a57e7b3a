package org.vinecellar.core.reports;

import java.util.Collections;
import java.util.Map;
import java.util.TreeMap;

/**
 * What somebody did.
 *
 * @param explained failure groups on which they decided something that stands
 * @param byCategory the same by what they decided; a group may be in several
 * @param assigned groups that are given to them now, and still have something to explain
 * @param overruled results whose outcome they set, and which stands
 */
public record PersonTold(
    String who, int explained, Map<String, Integer> byCategory, int assigned, int overruled) {
  /** Copies the map. */
  public PersonTold {
    byCategory = Collections.unmodifiableMap(new TreeMap<>(byCategory));
  }
}
