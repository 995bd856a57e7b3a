/** Contents of any size in rows: raw files, attachments, and how they are read again. */
@NullMarked
package org.vinecellar.store.blobs;

import org.jspecify.annotations.NullMarked;
