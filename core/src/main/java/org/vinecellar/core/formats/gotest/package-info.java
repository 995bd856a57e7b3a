/** The events that Go's own test command writes. */
@NullMarked
package org.vinecellar.core.formats.gotest;

import org.jspecify.annotations.NullMarked;
