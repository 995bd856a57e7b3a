/** One thin class a command; exit codes are in ExitCode. */
@NullMarked
package org.vinecellar.client.command;

import org.jspecify.annotations.NullMarked;
