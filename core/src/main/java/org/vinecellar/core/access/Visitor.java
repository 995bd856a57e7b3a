package org.vinecellar.core.access;

import java.util.Set;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Who makes a request, and what they may do where. Whether they may is decided here alone. */
public sealed interface Visitor {
  /** Somebody of whom nothing is known. */
  record Nobody() implements Visitor {
    @Override
    public String name() {
      throw unknown();
    }

    @Override
    public Entry enter(String key, Right right, Memberships memberships) {
      throw unknown();
    }
  }

  /** A pipeline with a token of one project. */
  record Pipeline(Project project, String tokenName, Set<Scope> scopes) implements Visitor {
    /** Copies the set. */
    public Pipeline {
      scopes = Set.copyOf(scopes);
    }

    @Override
    public String name() {
      return "token “" + tokenName + "”";
    }

    @Override
    public Entry enter(String key, Right right, Memberships memberships) {
      if (!project.key().equals(key)) {
        throw noProject(key);
      }
      requireScope(scopes, right);
      return new Entry(project, null);
    }
  }

  /**
   * A person: signed in, or by a token of their own.
   *
   * @param session null when a token is used
   * @param scopes null when signed in: all that the person may
   */
  record Person(
      long accountId,
      String login,
      boolean administrator,
      @Nullable Session session,
      @Nullable Set<Scope> scopes)
      implements Visitor {
    @Override
    public String name() {
      return login;
    }

    @Override
    public Entry enter(String key, Right right, Memberships memberships) {
      Membership membership = memberships.of(this, key);
      if (membership == null) {
        throw noProject(key);
      }
      Set<Scope> limits = scopes;
      if (limits != null) {
        requireScope(limits, right);
      }
      if (!membership.role().may(right)) {
        throw new CellarException(
            ProblemCode.NOT_ALLOWED,
            "as "
                + membership.role().word()
                + " of “"
                + key
                + "” you may not do this; "
                + (Role.CONTRIBUTOR.may(right) ? "a contributor may" : "an owner may"));
      }
      return new Entry(membership.project(), membership.role());
    }
  }

  /** Where a person is what. */
  @FunctionalInterface
  interface Memberships {
    /**
     * What the person is in the project of that key; an administrator owns every project.
     *
     * @return null when there is no such project, or the person may not know of it
     */
    @Nullable Membership of(Person person, String key);
  }

  /**
   * A project that somebody may enter.
   *
   * @param role what a person is in it; null for a pipeline
   */
  record Entry(Project project, @Nullable Role role) {}

  /**
   * Under what name changes are noted.
   *
   * @throws CellarException {@code NOT_SIGNED_IN} for nobody
   */
  String name();

  /**
   * The project of that key for something that needs a right.
   *
   * @throws CellarException {@code NOT_FOUND} when there is none or the visitor should not know of
   *     it; the answer is the same, so that nobody learns which projects exist. {@code NOT_ALLOWED}
   *     when the visitor may know of it, and may not do this. {@code NOT_SIGNED_IN} for nobody
   */
  Entry enter(String key, Right right, Memberships memberships);

  /** What somebody unknown is told. */
  static CellarException unknown() {
    return new CellarException(
        ProblemCode.NOT_SIGNED_IN, "send a token (Authorization: Bearer …), or sign in");
  }

  private static CellarException noProject(String key) {
    String shown = key.length() > 80 ? key.substring(0, 80) + "…" : key;
    return new CellarException(
        ProblemCode.NOT_FOUND, "there is no project “" + shown + "” that you may see");
  }

  private static void requireScope(Set<Scope> scopes, Right right) {
    if (Scope.give(scopes, right)) {
      return;
    }
    throw new CellarException(
        ProblemCode.NOT_ALLOWED,
        right == Right.MANAGE
            ? "no token can do this; sign in as an owner of the project"
            : right == Right.TIDY
                ? "this needs an owner’s own token with the scope tidy, or an owner who signed in"
                : "the token has the scopes "
                    + scopes.stream().map(Scope::word).sorted().collect(Collectors.joining(", "))
                    + "; this needs "
                    + right.word());
  }
}
