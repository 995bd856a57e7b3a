/**
 * What happened over a time, as tables: of what ran, of each test, by what runs have, of people.
 */
@NullMarked
package org.vinecellar.core.reports;

import org.jspecify.annotations.NullMarked;
