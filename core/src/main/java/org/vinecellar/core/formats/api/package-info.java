/** Results of runners of API collections: requests with assertions on what came back. */
@NullMarked
package org.vinecellar.core.formats.api;

import org.jspecify.annotations.NullMarked;
