/** What needs a person today, since they last looked. */
@NullMarked
package org.vinecellar.core.today;

import org.jspecify.annotations.NullMarked;
