/** By which figures tests are ranked, in PostgreSQL. */
@NullMarked
package org.vinecellar.store.trust.ranks;

import org.jspecify.annotations.NullMarked;
