/** Bundles in tables. */
@NullMarked
package org.vinecellar.store.bundles;

import org.jspecify.annotations.NullMarked;
