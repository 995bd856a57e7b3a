/** Uploads into tables: COPY, the names' dictionary, and what a run adds up to. */
@NullMarked
package org.vinecellar.store.ingest;

import org.jspecify.annotations.NullMarked;
