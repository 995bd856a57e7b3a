/** What reports are made of. */
@NullMarked
package org.vinecellar.store.reports;

import org.jspecify.annotations.NullMarked;
