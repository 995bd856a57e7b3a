/** Results as rows: how they are packed, named, and brought into the database. */
@NullMarked
package org.vinecellar.store.results;

import org.jspecify.annotations.NullMarked;
