/** Paging, entity tags, the console's pages and the client's download. */
@NullMarked
package org.vinecellar.service.web;

import org.jspecify.annotations.NullMarked;
