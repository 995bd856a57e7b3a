/** Taking runs and streams away. */
@NullMarked
package org.vinecellar.core.removal;

import org.jspecify.annotations.NullMarked;
