/** Whose code a place in a trace is: ours, of a test, of a helper, of a library or runtime. */
@NullMarked
package org.vinecellar.core.triage.code;

import org.jspecify.annotations.NullMarked;
