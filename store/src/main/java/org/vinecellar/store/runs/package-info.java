/** Streams, runs and results out of tables. */
@NullMarked
package org.vinecellar.store.runs;

import org.jspecify.annotations.NullMarked;
