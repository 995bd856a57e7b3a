package org.vinecellar.service.ingest;

import java.util.Set;
import java.util.TreeSet;
import org.jboss.resteasy.reactive.server.core.CurrentRequestManager;
import org.jboss.resteasy.reactive.server.core.multipart.FormData;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** Refuses fields that nobody reads: a label in a field “lable” would be lost without a word. */
final class FormFields {
  private FormFields() {}

  /**
   * Looks at the form of the present request.
   *
   * @throws CellarException {@code INVALID_VALUE} when it has a field that is not known
   */
  static void check(Set<String> known) {
    FormData form = CurrentRequestManager.get().getFormData();
    if (form == null) {
      return;
    }
    for (String name : form) {
      if (!known.contains(name)) {
        String shown = name.length() > 80 ? name.substring(0, 80) + "…" : name;
        throw new CellarException(
            ProblemCode.INVALID_VALUE,
            "there is no field “"
                + shown
                + "”; there are: "
                + String.join(", ", new TreeSet<>(known)));
      }
    }
  }
}
