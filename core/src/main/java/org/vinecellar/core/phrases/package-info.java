/** Many phrases found in one pass over a text. */
@NullMarked
package org.vinecellar.core.phrases;

import org.jspecify.annotations.NullMarked;
