/** What a check wanted against what it got, as its message tells. */
@NullMarked
package org.vinecellar.core.traces;

import org.jspecify.annotations.NullMarked;
