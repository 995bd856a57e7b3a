/** The JSON of GoogleTest. */
@NullMarked
package org.vinecellar.core.formats.googletest;

import org.jspecify.annotations.NullMarked;
