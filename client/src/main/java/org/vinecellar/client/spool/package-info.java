/** Uploads that wait on disk until the portal can be reached. */
@NullMarked
package org.vinecellar.client.spool;

import org.jspecify.annotations.NullMarked;
