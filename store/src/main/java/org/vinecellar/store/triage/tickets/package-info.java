/** Tickets of failure groups, and how their tracker is spoken to. */
@NullMarked
package org.vinecellar.store.triage.tickets;

import org.jspecify.annotations.NullMarked;
