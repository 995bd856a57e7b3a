/** Tests by their figures, over HTTP. */
@NullMarked
package org.vinecellar.service.trust.ranks;

import org.jspecify.annotations.NullMarked;
