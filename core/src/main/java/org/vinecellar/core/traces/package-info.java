/** Reading a failure: stack frames, and expected against actual values. */
@NullMarked
package org.vinecellar.core.traces;

import org.jspecify.annotations.NullMarked;
