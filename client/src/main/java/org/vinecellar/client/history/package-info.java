/** Old result files in folders: which run each belongs to, and in which order they go. */
@NullMarked
package org.vinecellar.client.history;

import org.jspecify.annotations.NullMarked;
