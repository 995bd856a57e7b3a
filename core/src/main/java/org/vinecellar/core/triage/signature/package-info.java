/** By what a failure is known again: its most telling key, with the reason for it. */
@NullMarked
package org.vinecellar.core.triage.signature;

import org.jspecify.annotations.NullMarked;
