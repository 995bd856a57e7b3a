/** Parts while they come. */
@NullMarked
package org.vinecellar.store.live;

import org.jspecify.annotations.NullMarked;
