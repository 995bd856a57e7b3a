/** What people write about runs and tests, and outcomes that they set. */
@NullMarked
package org.vinecellar.core.edits;

import org.jspecify.annotations.NullMarked;
