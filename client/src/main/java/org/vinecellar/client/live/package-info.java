/** Sends results while tests run. */
@NullMarked
package org.vinecellar.client.live;

import org.jspecify.annotations.NullMarked;
