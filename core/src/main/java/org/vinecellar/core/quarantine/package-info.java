/** Tests whose failures fail no gate until a date: who promised what, and what became of it. */
@NullMarked
package org.vinecellar.core.quarantine;

import org.jspecify.annotations.NullMarked;
