/** Tests whose failures fail no gate for a while, in PostgreSQL. */
@NullMarked
package org.vinecellar.store.quarantine;

import org.jspecify.annotations.NullMarked;
