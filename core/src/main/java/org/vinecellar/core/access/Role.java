package org.vinecellar.core.access;

import java.util.Arrays;
import java.util.EnumSet;
import java.util.Optional;
import java.util.Set;

/** What a member of a project is. The codes are kept; they never change. */
public enum Role {
  READER(1, Right.READ),
  CONTRIBUTOR(2, Right.READ, Right.SEND, Right.EDIT),
  OWNER(3, Right.READ, Right.SEND, Right.EDIT, Right.TIDY, Right.MANAGE);

  private final int code;
  private final Set<Right> rights;

  Role(int code, Right... rights) {
    this.code = code;
    this.rights = EnumSet.copyOf(Arrays.asList(rights));
  }

  public int code() {
    return code;
  }

  /** As it stands in the API. */
  public String word() {
    return name().toLowerCase(java.util.Locale.ROOT);
  }

  public boolean may(Right right) {
    return rights.contains(right);
  }

  /**
   * @throws IllegalArgumentException for a code that no role has
   */
  public static Role ofCode(int code) {
    return Arrays.stream(values())
        .filter(role -> role.code == code)
        .findFirst()
        .orElseThrow(() -> new IllegalArgumentException("no role has the code " + code));
  }

  /** Empty when no role is called so. */
  public static Optional<Role> ofWord(String word) {
    return Arrays.stream(values()).filter(role -> role.word().equals(word)).findFirst();
  }
}
