/** Notes about runs and tests, and outcomes that people set. */
@NullMarked
package org.vinecellar.service.edits;

import org.jspecify.annotations.NullMarked;
