/** Results as TestNG itself writes them. */
@NullMarked
package org.vinecellar.core.formats.testng;

import org.jspecify.annotations.NullMarked;
