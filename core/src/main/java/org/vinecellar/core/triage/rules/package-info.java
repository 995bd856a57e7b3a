/** Rules: which failures are explained without a person, how, and what a rule would have done. */
@NullMarked
package org.vinecellar.core.triage.rules;

import org.jspecify.annotations.NullMarked;
