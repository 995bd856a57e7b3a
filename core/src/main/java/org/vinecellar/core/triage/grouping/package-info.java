/** Puts the failures of a run into groups, known ones and new ones. */
@NullMarked
package org.vinecellar.core.triage.grouping;

import org.jspecify.annotations.NullMarked;
