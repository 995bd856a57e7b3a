/**
 * What a failed check names: locators, fields, expressions, requests, codes, objects of a database.
 */
@NullMarked
package org.vinecellar.core.triage.checks;

import org.jspecify.annotations.NullMarked;
