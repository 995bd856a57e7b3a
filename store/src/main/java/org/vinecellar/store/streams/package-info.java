/** Streams under the names that they have, or had. */
@NullMarked
package org.vinecellar.store.streams;

import org.jspecify.annotations.NullMarked;
