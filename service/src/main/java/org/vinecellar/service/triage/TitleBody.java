package org.vinecellar.service.triage;

import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.triage.desk.Title;
import org.vinecellar.core.triage.signature.KeyKind;

/**
 * What people call a failure group.
 *
 * @param text what is wrong
 * @param beside what tells more of it
 * @param fromError whether the text is of the error, so that a # in it stands for a value; else one
 *     in what stands beside it does
 */
@Schema(name = "GroupTitle")
public record TitleBody(String text, String beside, boolean fromError) {
  static TitleBody of(KeyKind kind, String sentence, String template) {
    Title title = Title.of(kind, sentence, template);
    return new TitleBody(title.text(), title.beside(), title.fromError());
  }
}
