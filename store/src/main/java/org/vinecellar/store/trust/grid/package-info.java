/** Tests by runs, in PostgreSQL. */
@NullMarked
package org.vinecellar.store.trust.grid;

import org.jspecify.annotations.NullMarked;
