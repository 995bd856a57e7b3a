/** By which figures tests are ranked: how often they fail, how long they take, since when. */
@NullMarked
package org.vinecellar.core.trust.ranks;

import org.jspecify.annotations.NullMarked;
