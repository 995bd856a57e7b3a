/** What people decide about failures: categories and decisions, and the port that keeps them. */
@NullMarked
package org.vinecellar.core.triage.decisions;

import org.jspecify.annotations.NullMarked;
