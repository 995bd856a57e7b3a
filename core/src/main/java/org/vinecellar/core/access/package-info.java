/** Who may come in: projects, tokens of pipelines, accounts and sessions of people. */
@NullMarked
package org.vinecellar.core.access;

import org.jspecify.annotations.NullMarked;
