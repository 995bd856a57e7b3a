/**
 * What changed between a run and the one before it in its stream, or from step to step of a test.
 */
@NullMarked
package org.vinecellar.core.changes;

import org.jspecify.annotations.NullMarked;
