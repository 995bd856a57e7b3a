/** Parts whose results come while their tests run. */
@NullMarked
package org.vinecellar.core.live;

import org.jspecify.annotations.NullMarked;
