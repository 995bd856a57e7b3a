/**
 * Filters: expressions that pick runs, results and tests, in the grammar of RFC 7644, section
 * 3.4.2.2.
 */
@NullMarked
package org.vinecellar.core.filters;

import org.jspecify.annotations.NullMarked;
