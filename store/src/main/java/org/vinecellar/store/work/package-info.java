/** Work that follows what was done, kept until it is done itself. */
@NullMarked
package org.vinecellar.store.work;

import org.jspecify.annotations.NullMarked;
