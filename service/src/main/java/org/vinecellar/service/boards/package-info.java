/** Sums over runs, over HTTP. */
@NullMarked
package org.vinecellar.service.boards;

import org.jspecify.annotations.NullMarked;
