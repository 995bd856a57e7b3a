/** What boards tell: sums over many runs, as tables that every chart is drawn from. */
@NullMarked
package org.vinecellar.core.boards;

import org.jspecify.annotations.NullMarked;
