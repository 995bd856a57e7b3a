/** Signing in, projects and tokens over HTTP. */
@NullMarked
package org.vinecellar.service.access;

import org.jspecify.annotations.NullMarked;
