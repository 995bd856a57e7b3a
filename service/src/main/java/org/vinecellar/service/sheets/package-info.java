/** Tables of numbers that lead to lists, over HTTP and as files. */
@NullMarked
package org.vinecellar.service.sheets;

import org.jspecify.annotations.NullMarked;
