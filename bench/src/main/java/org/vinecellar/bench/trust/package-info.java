/** Simulated streams whose flaky and renamed tests are known, and how well they are found. */
@NullMarked
package org.vinecellar.bench.trust;

import org.jspecify.annotations.NullMarked;
