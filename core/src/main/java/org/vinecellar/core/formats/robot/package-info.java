/** Results of Robot Framework: tests made of keywords, with a log of each. */
@NullMarked
package org.vinecellar.core.formats.robot;

import org.jspecify.annotations.NullMarked;
