package org.vinecellar.service.access;

import jakarta.enterprise.context.RequestScoped;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.AccessStore;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Session;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Who makes the present request: a pipeline with a token, or a person with a session. */
@RequestScoped
public class Caller {
  private final AccessStore store;
  private AccessStore.@Nullable Pipeline pipeline;
  private @Nullable Session session;

  Caller(AccessStore store) {
    this.store = store;
  }

  void isPipeline(AccessStore.Pipeline known) {
    pipeline = known;
  }

  void isPerson(Session known) {
    session = known;
  }

  /**
   * The project of that key, when the caller may be in it.
   *
   * @throws CellarException {@code NOT_FOUND} when there is none or it is another's; the answer is
   *     the same, so that nobody learns which projects exist
   */
  public Project project(String key) {
    if (pipeline != null) {
      Project own = pipeline.project();
      if (own.key().equals(key)) {
        return own;
      }
      throw notFound(key);
    }
    person();
    return store.project(key).orElseThrow(() -> notFound(key));
  }

  /**
   * The project, for changes that only people may make.
   *
   * @throws CellarException {@code NOT_ALLOWED} for a pipeline
   */
  public Project projectAsPerson(String key) {
    person();
    return project(key);
  }

  /**
   * The session of a person.
   *
   * @throws CellarException {@code NOT_ALLOWED} for a pipeline, {@code NOT_SIGNED_IN} for nobody
   */
  public Session person() {
    Session known = session;
    if (known != null) {
      return known;
    }
    if (pipeline != null) {
      throw new CellarException(
          ProblemCode.NOT_ALLOWED, "a pipeline's token cannot do this; sign in as a person");
    }
    throw new CellarException(
        ProblemCode.NOT_SIGNED_IN,
        "send a token of the project (Authorization: Bearer …), or sign in");
  }

  /** Under what name changes are noted: a person's login, or {@code token “NAME”}. */
  public String name() {
    return pipeline == null ? person().login() : "token “" + pipeline.tokenName() + "”";
  }

  private static CellarException notFound(String key) {
    return new CellarException(
        ProblemCode.NOT_FOUND, "there is no project “" + key + "” that you may see");
  }
}
