package org.vinecellar.core.access;

import java.time.Instant;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.problem.CellarException;

/** Projects, and who is what in them. */
public interface ProjectStore {
  /** All of them, by name. */
  List<Project> projects();

  Optional<Project> project(String key);

  /**
   * Makes a project.
   *
   * @param owner the account that owns it from the start; null for none
   * @throws CellarException {@code ALREADY_EXISTS}
   */
  Project create(String key, String name, @Nullable Long owner, Instant now);

  /** Changes the name of a project, and whether everybody may read it. */
  Project change(int projectId, String name, boolean open);

  /**
   * What an account may be in a project: its role there, or reader where everybody may read.
   *
   * @return empty when there is no such project, or the account is nothing in it
   */
  Optional<Membership> membership(long accountId, String projectKey);

  /** All projects in which the account is something, by name. */
  List<Membership> memberships(long accountId);
}
