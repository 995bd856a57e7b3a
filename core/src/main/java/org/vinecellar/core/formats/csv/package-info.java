/** Tables of results, for anything that writes no format of its own. */
@NullMarked
package org.vinecellar.core.formats.csv;

import org.jspecify.annotations.NullMarked;
