/** Renames streams, and moves runs from one to another. */
@NullMarked
package org.vinecellar.store.moves;

import org.jspecify.annotations.NullMarked;
