/** The vine command. */
@NullMarked
package org.vinecellar.client;

import org.jspecify.annotations.NullMarked;
