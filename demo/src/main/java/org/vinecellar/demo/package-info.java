/** The made-up Skerrow Line: the same nights with every load, sent through the real client. */
@NullMarked
package org.vinecellar.demo;

import org.jspecify.annotations.NullMarked;
