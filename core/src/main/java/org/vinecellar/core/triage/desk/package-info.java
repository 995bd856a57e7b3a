/**
 * The failure groups of a project over all its runs, as people sort them, and the port for that.
 */
@NullMarked
package org.vinecellar.core.triage.desk;

import org.jspecify.annotations.NullMarked;
