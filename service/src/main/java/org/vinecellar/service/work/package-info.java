/** Does the work that was left with what changed. */
@NullMarked
package org.vinecellar.service.work;

import org.jspecify.annotations.NullMarked;
