/** Streams, runs and their results, as they are looked at. */
@NullMarked
package org.vinecellar.core.runs;

import org.jspecify.annotations.NullMarked;
