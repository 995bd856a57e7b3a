package org.vinecellar.core.trust.renames;

import java.util.List;

/**
 * A test that goes on under another name.
 *
 * @param likely how sure that is, from 0 to 1
 */
public record Succession(long old, long now, double likely, List<Reason> reasons) {
  private static final double SURE = 0.9;

  /** Copies the reasons. */
  public Succession {
    reasons = List.copyOf(reasons);
  }

  /** Whether nobody need be asked. */
  public boolean isSure() {
    return likely >= SURE;
  }
}
