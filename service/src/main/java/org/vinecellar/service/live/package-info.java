/** Parts while they come, and news of runs as they change. */
@NullMarked
package org.vinecellar.service.live;

import org.jspecify.annotations.NullMarked;
