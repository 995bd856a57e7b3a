/** Filters under a name. */
@NullMarked
package org.vinecellar.store.saved;

import org.jspecify.annotations.NullMarked;
