package org.vinecellar.core.access;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;

/** Accounts of people, how they come to be, and where they are members. */
public interface PeopleStore {
  boolean hasAccounts();

  Optional<Account> account(String login);

  Optional<Account> account(long id);

  /** By login, at most 5000. */
  List<Account> accounts();

  /**
   * Makes an account.
   *
   * @return false when there is one of that login already
   */
  boolean createAccount(
      String login, @Nullable String passwordHash, boolean administrator, Instant now);

  /** Sets a password and ends all sessions of the account but that of one token. */
  void changePassword(long accountId, String passwordHash, String keptTokenHash);

  /**
   * Lets a person in or keeps them out; who is kept out loses their sessions at once, and their
   * tokens stop to work.
   *
   * @throws CellarException {@code LAST_ONE} when no enabled administrator would be left
   */
  void setEnabled(long accountId, boolean enabled, Instant now);

  /**
   * Makes a person an administrator of the portal, or takes that away.
   *
   * @throws CellarException {@code LAST_ONE} when no enabled administrator would be left
   */
  void setAdministrator(long accountId, boolean administrator);

  /** Keeps an invitation under the hash of its secret; an earlier one of the login ends. */
  void invite(String secretHash, Invitation invitation, Instant now);

  /** An invitation that is still good. */
  Optional<Invitation> invitation(String secretHash, Instant now);

  /** Those that are still good, the latest first. */
  List<Invitation> invitations(Instant now);

  /** Ends the invitations of a login. */
  boolean withdraw(String login);

  /**
   * Uses an invitation up: makes the account with its memberships, or sets the password and ends
   * all sessions.
   *
   * @return the account; empty when the invitation is not good (any more)
   * @throws CellarException {@code ALREADY_EXISTS} when somebody has the login meanwhile
   */
  Optional<Account> accept(String secretHash, String passwordHash, Instant now);

  /** By login. */
  List<Member> members(int projectId);

  /**
   * Makes somebody a member, or changes what they are.
   *
   * @throws CellarException {@code LAST_ONE} when the project would have no owner left
   */
  void setMember(int projectId, long accountId, Role role, String by, Instant now);

  /**
   * Takes a member out.
   *
   * @return false when the account was none
   * @throws CellarException {@code LAST_ONE} when the project would have no owner left
   */
  boolean removeMember(int projectId, long accountId);

  /** Drops invitations that ran out. */
  void dropExpired(Instant now);
}
