package org.vinecellar.service.access;

import io.quarkus.vertx.http.runtime.CurrentVertxRequest;
import io.vertx.ext.web.RoutingContext;
import jakarta.enterprise.context.RequestScoped;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Who makes the present request, as the front door found out. */
@RequestScoped
public class Caller {
  private final Projects projects;
  private final CurrentVertxRequest request;

  Caller(Projects projects, CurrentVertxRequest request) {
    this.projects = projects;
    this.request = request;
  }

  /** Who it is; for work on other threads, where this bean cannot go. */
  public Visitor visitor() {
    RoutingContext context = request.getCurrent();
    Visitor known = context == null ? null : context.get(Identify.VISITOR);
    return known == null ? new Visitor.Nobody() : known;
  }

  /**
   * The project of that key, when the caller has the right there. There is no other way to one.
   *
   * @throws CellarException as {@link Visitor#enter}
   */
  public Project project(String key, Right right) {
    return entry(key, right).project();
  }

  /** As {@link #project}, with what the caller is there. */
  Visitor.Entry entry(String key, Right right) {
    return projects.entry(visitor(), key, right);
  }

  /**
   * Somebody who signed in, for what no token can do.
   *
   * @throws CellarException {@code NOT_ALLOWED} for a token, {@code NOT_SIGNED_IN} for nobody
   */
  public Session session() {
    Visitor visitor = visitor();
    if (visitor instanceof Visitor.Person person) {
      Session session = person.session();
      if (session != null) {
        return session;
      }
    }
    visitor.name();
    throw new CellarException(
        ProblemCode.NOT_ALLOWED, "a token cannot do this; sign in as a person");
  }

  /**
   * A person, signed in or by a token of their own.
   *
   * @throws CellarException {@code NOT_ALLOWED} for a pipeline, {@code NOT_SIGNED_IN} for nobody
   */
  public Visitor.Person person() {
    Visitor visitor = visitor();
    if (visitor instanceof Visitor.Person person) {
      return person;
    }
    visitor.name();
    throw new CellarException(
        ProblemCode.NOT_ALLOWED, "a pipeline’s token cannot do this; sign in as a person");
  }

  /**
   * An administrator of the portal who signed in.
   *
   * @throws CellarException {@code NOT_ALLOWED} for everybody else
   */
  public Session administrator() {
    Session session = session();
    if (!session.administrator()) {
      throw new CellarException(
          ProblemCode.NOT_ALLOWED, "only an administrator of the portal can do this");
    }
    return session;
  }

  /** Under what name changes are noted: a person's login, or {@code token “NAME”}. */
  public String name() {
    return visitor().name();
  }
}
