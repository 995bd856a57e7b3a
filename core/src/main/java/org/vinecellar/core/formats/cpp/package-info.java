/** Readers of what C and C++ test frameworks write in formats of their own. */
@NullMarked
package org.vinecellar.core.formats.cpp;

import org.jspecify.annotations.NullMarked;
