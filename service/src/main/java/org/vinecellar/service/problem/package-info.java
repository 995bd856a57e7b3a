/** From a problem's kind to an HTTP status, in one place. */
@NullMarked
package org.vinecellar.service.problem;

import org.jspecify.annotations.NullMarked;
