package org.vinecellar.core.triage.grouping;

import java.util.List;

/** The groups of a project, as far as the failures of a run may belong to them. */
public interface KnownGroups {
  /**
   * @return those that have the key, by their number; of an {@code OFFER}, {@code ASK} or {@code
   *     BAND} perhaps not all, but more than one when there are several
   */
  List<KnownGroup> with(GroupKey key);

  /** Those of others for keys that none of these has. */
  default KnownGroups or(KnownGroups others) {
    return key -> {
      List<KnownGroup> these = with(key);
      return these.isEmpty() ? others.with(key) : these;
    };
  }
}
