/** Calls to the portal. */
@NullMarked
package org.vinecellar.client.http;

import org.jspecify.annotations.NullMarked;
