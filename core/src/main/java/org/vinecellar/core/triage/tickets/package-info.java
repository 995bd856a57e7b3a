/** Tickets in an outside tracker: the port to it, which are like a failure group, and new ones. */
@NullMarked
package org.vinecellar.core.triage.tickets;

import org.jspecify.annotations.NullMarked;
