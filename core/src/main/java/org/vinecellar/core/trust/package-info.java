/** Which tests can be believed, by what they did before. */
@NullMarked
package org.vinecellar.core.trust;

import org.jspecify.annotations.NullMarked;
