/** What triage keeps and reads, row by row: categories, failure groups, failing results. */
@NullMarked
package org.vinecellar.store.triage.rows;

import org.jspecify.annotations.NullMarked;
