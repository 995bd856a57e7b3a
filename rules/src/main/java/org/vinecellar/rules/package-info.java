/** What holds for the code of every module. */
@NullMarked
package org.vinecellar.rules;

import org.jspecify.annotations.NullMarked;
