/** What all formats of JSON share: opening, bounded trees, error words. */
@NullMarked
package org.vinecellar.core.formats.json;

import org.jspecify.annotations.NullMarked;
