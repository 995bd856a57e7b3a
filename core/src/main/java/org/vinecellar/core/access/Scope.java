package org.vinecellar.core.access;

import java.util.EnumSet;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;

/** What a token is good for, at most. A set of them is kept as the sum of their bits. */
public enum Scope {
  SEND(1, Right.SEND),
  READ(2, Right.READ),
  EDIT(4, Right.EDIT),
  /** For tokens of people alone: who deleted or moved something shall be somebody. */
  TIDY(8, Right.TIDY);

  private final int bit;
  private final Right right;

  Scope(int bit, Right right) {
    this.bit = bit;
    this.right = right;
  }

  /** The one right that it gives. */
  public Right right() {
    return right;
  }

  /** As it stands in the API. */
  public String word() {
    return name().toLowerCase(Locale.ROOT);
  }

  /** Empty when no scope is called so. */
  public static Optional<Scope> ofWord(String word) {
    return EnumSet.allOf(Scope.class).stream().filter(s -> s.word().equals(word)).findFirst();
  }

  /** The sum of their bits. */
  public static int bits(Set<Scope> scopes) {
    return scopes.stream().mapToInt(scope -> scope.bit).sum();
  }

  /** The scopes whose bits are in a sum. */
  public static Set<Scope> ofBits(int bits) {
    EnumSet<Scope> scopes = EnumSet.noneOf(Scope.class);
    for (Scope scope : values()) {
      if ((bits & scope.bit) != 0) {
        scopes.add(scope);
      }
    }
    return scopes;
  }

  /** Whether one of them gives the right. */
  public static boolean give(Set<Scope> scopes, Right right) {
    return scopes.stream().anyMatch(scope -> scope.right == right);
  }
}
