/** XML as frameworks write it, well-formed or nearly so, for all readers of XML formats. */
@NullMarked
package org.vinecellar.core.formats.xml;

import org.jspecify.annotations.NullMarked;
