/** Typed configuration, wiring, and the first start. */
@NullMarked
package org.vinecellar.service.config;

import org.jspecify.annotations.NullMarked;
