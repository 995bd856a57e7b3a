/** Notes, who changed them, and outcomes that were set by hand. */
@NullMarked
package org.vinecellar.store.edits;

import org.jspecify.annotations.NullMarked;
