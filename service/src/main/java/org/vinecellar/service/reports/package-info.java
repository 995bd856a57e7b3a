/** Reports over time, over HTTP and as files. */
@NullMarked
package org.vinecellar.service.reports;

import org.jspecify.annotations.NullMarked;
