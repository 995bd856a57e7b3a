/** Tests by runs: what failed where. */
@NullMarked
package org.vinecellar.core.trust.grid;

import org.jspecify.annotations.NullMarked;
