/** Files that tests leave behind: what they are, and which test they belong to. */
@NullMarked
package org.vinecellar.core.attachments;

import org.jspecify.annotations.NullMarked;
