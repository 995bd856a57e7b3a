/** What keeps the service standing: threads by purpose, crowds, the disk, and what was refused. */
@NullMarked
package org.vinecellar.service.guard;

import org.jspecify.annotations.NullMarked;
