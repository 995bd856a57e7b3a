/** Speed, as ratios of times taken in one run on one machine. */
@NullMarked
package org.vinecellar.bench;

import org.jspecify.annotations.NullMarked;
