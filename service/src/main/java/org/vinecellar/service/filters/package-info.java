/** Filters as they come in the addresses of lists, and help for who writes them. */
@NullMarked
package org.vinecellar.service.filters;

import org.jspecify.annotations.NullMarked;
