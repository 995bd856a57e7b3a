package org.vinecellar.service.web;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.changes.ChangeCounts;

/** How many tests changed in which way since the previous run of the stream. */
@Schema(name = "Changes")
public record ChangesBody(
    int newFailing,
    int failingAsBefore,
    int fixed,
    int passedOnRetry,
    int added,
    int gone,
    int renamed) {
  /** The same as a body. */
  public static ChangesBody of(ChangeCounts c) {
    return new ChangesBody(
        c.newFailing(),
        c.failingAsBefore(),
        c.fixed(),
        c.passedOnRetry(),
        c.added(),
        c.gone(),
        c.renamed());
  }
}
