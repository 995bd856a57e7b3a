/** Sums for boards. */
@NullMarked
package org.vinecellar.store.boards;

import org.jspecify.annotations.NullMarked;
