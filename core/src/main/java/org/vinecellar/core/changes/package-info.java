/** What changed between a run and the one before it in its stream. */
@NullMarked
package org.vinecellar.core.changes;

import org.jspecify.annotations.NullMarked;
