/** What can go wrong, as stable codes: callers branch on codes, never on text. */
@NullMarked
package org.vinecellar.core.problem;

import org.jspecify.annotations.NullMarked;
