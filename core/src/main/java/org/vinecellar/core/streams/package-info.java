/** Streams of bytes, whatever they hold. */
@NullMarked
package org.vinecellar.core.streams;

import org.jspecify.annotations.NullMarked;
