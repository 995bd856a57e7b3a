/** Projects, tokens, accounts and sessions in tables. */
@NullMarked
package org.vinecellar.store.access;

import org.jspecify.annotations.NullMarked;
