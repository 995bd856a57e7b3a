/** What filters ask, as conditions of the database. */
@NullMarked
package org.vinecellar.store.filters;

import org.jspecify.annotations.NullMarked;
