/** Written scenarios as Cucumber and its kin report them: Messages, and the older JSON. */
@NullMarked
package org.vinecellar.core.formats.cucumber;

import org.jspecify.annotations.NullMarked;
