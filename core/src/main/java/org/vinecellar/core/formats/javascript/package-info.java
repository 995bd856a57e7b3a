/** The JSON of test runners for JavaScript. */
@NullMarked
package org.vinecellar.core.formats.javascript;

import org.jspecify.annotations.NullMarked;
