/** What every feature's store shares: jOOQ on PostgreSQL, errors, JSON columns. */
@NullMarked
package org.vinecellar.store.sql;

import org.jspecify.annotations.NullMarked;
