/** What needs somebody today, over HTTP. */
@NullMarked
package org.vinecellar.service.today;

import org.jspecify.annotations.NullMarked;
