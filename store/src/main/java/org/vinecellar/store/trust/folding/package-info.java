/** Cases of a test whose names are made up anew in each run: recognised, and folded under one. */
@NullMarked
package org.vinecellar.store.trust.folding;

import org.jspecify.annotations.NullMarked;
