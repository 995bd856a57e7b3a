/** What is printed, for people and for programs. */
@NullMarked
package org.vinecellar.client.output;

import org.jspecify.annotations.NullMarked;
