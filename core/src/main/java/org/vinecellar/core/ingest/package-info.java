/** From reported cases to the results of a run: retries, repetitions, numbering. */
@NullMarked
package org.vinecellar.core.ingest;

import org.jspecify.annotations.NullMarked;
