/** Taking runs and streams away. */
@NullMarked
package org.vinecellar.service.removal;

import org.jspecify.annotations.NullMarked;
