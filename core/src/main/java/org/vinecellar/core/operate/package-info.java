/** What who runs the portal is told. */
@NullMarked
package org.vinecellar.core.operate;

import org.jspecify.annotations.NullMarked;
