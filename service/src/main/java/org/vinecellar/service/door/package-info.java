/** The front door of the API: who comes in, how many, and with how large a body. */
@NullMarked
package org.vinecellar.service.door;

import org.jspecify.annotations.NullMarked;
