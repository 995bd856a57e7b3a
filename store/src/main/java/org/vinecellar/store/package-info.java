/** PostgreSQL behind the ports of core. */
@NullMarked
package org.vinecellar.store;

import org.jspecify.annotations.NullMarked;
