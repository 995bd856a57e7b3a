/** What test runners for .NET write: NUnit 3, xUnit.net v2, and TRX. */
@NullMarked
package org.vinecellar.core.formats.dotnet;

import org.jspecify.annotations.NullMarked;
