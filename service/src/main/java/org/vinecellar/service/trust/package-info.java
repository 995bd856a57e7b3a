/** What is known of tests by what they did before. */
@NullMarked
package org.vinecellar.service.trust;

import org.jspecify.annotations.NullMarked;
