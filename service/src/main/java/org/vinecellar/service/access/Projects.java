package org.vinecellar.service.access;

import jakarta.inject.Singleton;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Membership;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.ProjectStore;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.access.Role;
import org.vinecellar.core.access.Visitor;

/** The only way to a project. Asks the database, so never on an event loop. */
@Singleton
public class Projects {
  private final ProjectStore store;

  Projects(ProjectStore store) {
    this.store = store;
  }

  /**
   * The project of that key, when the visitor has the right there.
   *
   * @throws org.vinecellar.core.problem.CellarException as {@link Visitor#enter}
   */
  public Project enter(Visitor visitor, String key, Right right) {
    return entry(visitor, key, right).project();
  }

  /** As {@link #enter}, with what the visitor is there. */
  Visitor.Entry entry(Visitor visitor, String key, Right right) {
    return visitor.enter(key, right, this::membership);
  }

  private @Nullable Membership membership(Visitor.Person person, String key) {
    if (person.administrator()) {
      return store.project(key).map(project -> new Membership(project, Role.OWNER)).orElse(null);
    }
    return store.membership(person.accountId(), key).orElse(null);
  }
}
