/** Folders of HTML that a job made itself, kept and served with its run. */
@NullMarked
package org.vinecellar.core.bundles;

import org.jspecify.annotations.NullMarked;
