/** What a call does not say itself: the settings file, and what pipeline servers tell. */
@NullMarked
package org.vinecellar.client.settings;

import org.jspecify.annotations.NullMarked;
