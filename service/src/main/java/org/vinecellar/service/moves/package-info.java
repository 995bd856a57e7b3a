/** Renaming streams and moving runs, over HTTP. */
@NullMarked
package org.vinecellar.service.moves;

import org.jspecify.annotations.NullMarked;
