/** Takes runs and streams away: out of sight at once, off the disk in small steps. */
@NullMarked
package org.vinecellar.store.removal;

import org.jspecify.annotations.NullMarked;
