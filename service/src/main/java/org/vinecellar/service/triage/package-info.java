/** Failures by their cause, and decisions of them, over HTTP. */
@NullMarked
package org.vinecellar.service.triage;

import org.jspecify.annotations.NullMarked;
