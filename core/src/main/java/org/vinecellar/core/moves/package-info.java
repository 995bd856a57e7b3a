/** Putting right what was sent under a wrong name. */
@NullMarked
package org.vinecellar.core.moves;

import org.jspecify.annotations.NullMarked;
