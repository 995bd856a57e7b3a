/** What is believed of tests, learned from runs. */
@NullMarked
package org.vinecellar.store.trust;

import org.jspecify.annotations.NullMarked;
