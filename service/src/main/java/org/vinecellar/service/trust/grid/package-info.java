/** Tests by runs, over HTTP. */
@NullMarked
package org.vinecellar.service.trust.grid;

import org.jspecify.annotations.NullMarked;
