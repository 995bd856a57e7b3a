/** Bundles: their list on the portal's origin, their files on another. */
@NullMarked
package org.vinecellar.service.bundles;

import org.jspecify.annotations.NullMarked;
