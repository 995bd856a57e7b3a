/** Streams, runs and results over HTTP. */
@NullMarked
package org.vinecellar.service.runs;

import org.jspecify.annotations.NullMarked;
