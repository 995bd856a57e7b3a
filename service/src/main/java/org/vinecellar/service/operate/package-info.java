/** For who runs the portal: health, metrics, and a page that says how it is. */
@NullMarked
package org.vinecellar.service.operate;

import org.jspecify.annotations.NullMarked;
