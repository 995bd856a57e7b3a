/** Which tests went on under another name. */
@NullMarked
package org.vinecellar.core.trust.renames;

import org.jspecify.annotations.NullMarked;
