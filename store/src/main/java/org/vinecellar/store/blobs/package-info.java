/** Contents of any size: where they are kept, that each is kept once, and that unused ones go. */
@NullMarked
package org.vinecellar.store.blobs;

import org.jspecify.annotations.NullMarked;
