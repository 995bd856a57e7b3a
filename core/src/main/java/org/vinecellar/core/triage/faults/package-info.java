/** Faults of the environment: which component failed, and in which way. */
@NullMarked
package org.vinecellar.core.triage.faults;

import org.jspecify.annotations.NullMarked;
