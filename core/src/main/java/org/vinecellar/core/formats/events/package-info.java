/** Our own events: see docs/EVENTS.md. */
@NullMarked
package org.vinecellar.core.formats.events;

import org.jspecify.annotations.NullMarked;
