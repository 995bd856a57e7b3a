/** The JSON of Ruby's RSpec. */
@NullMarked
package org.vinecellar.core.formats.rspec;

import org.jspecify.annotations.NullMarked;
