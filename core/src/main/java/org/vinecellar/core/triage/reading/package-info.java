/**
 * What a failure's text says: the chain of what was thrown, and the places in code that it names.
 */
@NullMarked
package org.vinecellar.core.triage.reading;

import org.jspecify.annotations.NullMarked;
