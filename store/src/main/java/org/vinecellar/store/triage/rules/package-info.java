/** Rules in PostgreSQL: kept, matched with failures, applied and tried. */
@NullMarked
package org.vinecellar.store.triage.rules;

import org.jspecify.annotations.NullMarked;
