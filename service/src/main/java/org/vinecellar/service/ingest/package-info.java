/** Uploads over HTTP. */
@NullMarked
package org.vinecellar.service.ingest;

import org.jspecify.annotations.NullMarked;
