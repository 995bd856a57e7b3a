/** Figures that are measured without a portal. */
@NullMarked
package org.vinecellar.bench.figures;

import org.jspecify.annotations.NullMarked;
