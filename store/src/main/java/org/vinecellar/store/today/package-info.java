/** What needs somebody today, in PostgreSQL. */
@NullMarked
package org.vinecellar.store.today;

import org.jspecify.annotations.NullMarked;
