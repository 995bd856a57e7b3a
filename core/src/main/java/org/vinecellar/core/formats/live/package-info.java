/** Batches of results between client and service while their tests run. */
@NullMarked
package org.vinecellar.core.formats.live;

import org.jspecify.annotations.NullMarked;
