/** JUnit-style XML as it is found in the wild. */
@NullMarked
package org.vinecellar.core.formats.junitxml;

import org.jspecify.annotations.NullMarked;
