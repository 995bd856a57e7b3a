/** Tells a portal of tests as the JUnit Platform runs them. */
@NullMarked
package org.vinecellar.listeners.junit;

import org.jspecify.annotations.NullMarked;
