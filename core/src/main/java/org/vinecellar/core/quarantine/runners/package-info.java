/** Tests as arguments for those who run them: to leave just these out, or to run just these. */
@NullMarked
package org.vinecellar.core.quarantine.runners;

import org.jspecify.annotations.NullMarked;
