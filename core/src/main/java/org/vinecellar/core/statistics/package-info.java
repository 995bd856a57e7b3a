/** What any room says with numbers. */
@NullMarked
package org.vinecellar.core.statistics;

import org.jspecify.annotations.NullMarked;
