/** What a run is taken for as evidence: of its tests, or of something that hit many of them. */
@NullMarked
package org.vinecellar.core.trust.evidence;

import org.jspecify.annotations.NullMarked;
