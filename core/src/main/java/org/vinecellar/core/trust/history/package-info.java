/** What a test did in the runs before, and what that shows. */
@NullMarked
package org.vinecellar.core.trust.history;

import org.jspecify.annotations.NullMarked;
