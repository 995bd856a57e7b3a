/** Tests whose failures fail no gate for a while, over HTTP. */
@NullMarked
package org.vinecellar.service.quarantine;

import org.jspecify.annotations.NullMarked;
