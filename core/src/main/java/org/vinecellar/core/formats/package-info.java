/** Readers of result files behind one small interface, found by content. */
@NullMarked
package org.vinecellar.core.formats;

import org.jspecify.annotations.NullMarked;
