/** Contents of any size, as they are read again. */
@NullMarked
package org.vinecellar.core.contents;

import org.jspecify.annotations.NullMarked;
