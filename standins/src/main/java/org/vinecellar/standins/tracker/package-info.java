/** A tracker of tickets: a log book of a harbour, with a page of its own. */
@NullMarked
package org.vinecellar.standins.tracker;

import org.jspecify.annotations.NullMarked;
