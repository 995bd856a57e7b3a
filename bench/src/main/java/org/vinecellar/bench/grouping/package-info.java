/** How well failures are grouped: labelled streams, made and scored. */
@NullMarked
package org.vinecellar.bench.grouping;

import org.jspecify.annotations.NullMarked;
