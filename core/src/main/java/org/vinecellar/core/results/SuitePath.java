package org.vinecellar.core.results;

import java.util.ArrayList;
import java.util.Collections;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * A suite and the suites around it, from the outermost in. Immutable; a child shares its parent, so
 * that the many tests of one suite cost one object.
 */
public final class SuitePath {
  /** The top, which holds tests that stand in no suite. */
  public static final SuitePath ROOT = new SuitePath(null, "", Key128.ZERO, 0);

  private final @Nullable SuitePath parent;
  private final String name;
  private final Key128 key;
  private final int depth;

  private SuitePath(@Nullable SuitePath parent, String name, Key128 key, int depth) {
    this.parent = parent;
    this.name = name;
    this.key = key;
    this.depth = depth;
  }

  /** The suite of that name inside this one. */
  public SuitePath child(String childName) {
    Objects.requireNonNull(childName);
    return new SuitePath(this, childName, KeyMaker.get().of(key, childName, null), depth + 1);
  }

  /** A path from its names, outermost first. */
  public static SuitePath of(List<String> names) {
    SuitePath path = ROOT;
    for (String name : names) {
      path = path.child(name);
    }
    return path;
  }

  /** The suite around this one; null for {@link #ROOT} only. */
  public @Nullable SuitePath parent() {
    return parent;
  }

  /** Its own name; empty for {@link #ROOT}. */
  public String name() {
    return name;
  }

  /** Made from the names of the whole path. */
  public Key128 key() {
    return key;
  }

  /** How many suites the path names; 0 for {@link #ROOT}. */
  public int depth() {
    return depth;
  }

  /** The names, outermost first. */
  public List<String> names() {
    List<String> names = new ArrayList<>(depth);
    for (SuitePath at = this; at.parent != null; at = at.parent) {
      names.add(at.name);
    }
    Collections.reverse(names);
    return names;
  }

  @Override
  public boolean equals(@Nullable Object other) {
    return other instanceof SuitePath path && path.key.equals(key);
  }

  @Override
  public int hashCode() {
    return key.hashCode();
  }

  @Override
  public String toString() {
    return String.join(" › ", names());
  }
}
