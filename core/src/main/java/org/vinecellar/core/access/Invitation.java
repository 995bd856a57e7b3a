package org.vinecellar.core.access;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;

/**
 * A link that is good once: to come in for the first time, or to choose another password.
 *
 * @param accountId whose password it sets; null for somebody new
 * @param login of that account, or of the one to be made
 * @param projects where somebody new becomes a member
 */
public record Invitation(
    String login,
    @Nullable Long accountId,
    boolean administrator,
    List<Place> projects,
    String createdBy,
    Instant expiresAt) {
  /** Copies the list. */
  public Invitation {
    projects = List.copyOf(projects);
  }

  /** What somebody will be in a project. */
  public record Place(int projectId, String projectKey, Role role) {}
}
