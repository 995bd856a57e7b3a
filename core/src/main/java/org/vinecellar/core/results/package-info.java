/** The result model: tests, results, attempts and outcomes as immutable values. */
@NullMarked
package org.vinecellar.core.results;

import org.jspecify.annotations.NullMarked;
