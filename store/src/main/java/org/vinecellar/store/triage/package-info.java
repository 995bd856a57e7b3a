/** Groups of failures and decisions in PostgreSQL. */
@NullMarked
package org.vinecellar.store.triage;

import org.jspecify.annotations.NullMarked;
