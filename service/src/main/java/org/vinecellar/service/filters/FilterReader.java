package org.vinecellar.service.filters;

import jakarta.enterprise.context.ApplicationScoped;
import java.time.InstantSource;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Visitor;
import org.vinecellar.core.filters.Criterion;
import org.vinecellar.core.filters.Resolver;
import org.vinecellar.core.filters.SavedFilterStore;
import org.vinecellar.core.filters.SavedNames;
import org.vinecellar.core.filters.Thing;
import org.vinecellar.service.access.Caller;

/** Reads filters as the caller means them: with the saved ones that they may name. */
@ApplicationScoped
public class FilterReader {
  private final SavedFilterStore store;
  private final Caller caller;
  private final InstantSource clock;

  FilterReader(SavedFilterStore store, Caller caller, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.clock = clock;
  }

  /**
   * What a text asks.
   *
   * @param text null or blank for everything
   * @throws org.vinecellar.core.filters.FilterException where it cannot be understood
   */
  public Criterion read(Project project, @Nullable String text, Thing thing) {
    return Resolver.read(text, thing, clock.instant(), names(project));
  }

  /** Saved filters that the caller may name. */
  public SavedNames names(Project project) {
    return store.names(project.id(), account());
  }

  /** The caller's, who may have filters of their own; null for a pipeline. */
  @Nullable Long account() {
    return caller.visitor() instanceof Visitor.Person person ? person.accountId() : null;
  }
}
