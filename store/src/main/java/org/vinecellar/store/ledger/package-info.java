/**
 * The one place where a run changes: counts, suites, changes, version, news and work that follows.
 */
@NullMarked
package org.vinecellar.store.ledger;

import org.jspecify.annotations.NullMarked;
