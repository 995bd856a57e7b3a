/** Whether a test fails by chance: an estimate that takes one run at a time. */
@NullMarked
package org.vinecellar.core.trust.flaky;

import org.jspecify.annotations.NullMarked;
