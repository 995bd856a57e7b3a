/** The Test Anything Protocol, versions 12 to 14. */
@NullMarked
package org.vinecellar.core.formats.tap;

import org.jspecify.annotations.NullMarked;
