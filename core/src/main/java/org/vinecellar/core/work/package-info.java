/** Work that follows what was done, kept until it is done. */
@NullMarked
package org.vinecellar.core.work;

import org.jspecify.annotations.NullMarked;
