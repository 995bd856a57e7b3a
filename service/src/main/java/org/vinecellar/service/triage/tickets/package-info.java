/** Speaks to outside trackers, and tells of the tickets that failure groups have there. */
@NullMarked
package org.vinecellar.service.triage.tickets;

import org.jspecify.annotations.NullMarked;
