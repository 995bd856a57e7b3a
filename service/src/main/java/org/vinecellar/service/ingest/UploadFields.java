package org.vinecellar.service.ingest;

import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.ingest.UploadForm;
import org.vinecellar.core.ingest.UploadRequest;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.Job;

/** The fields of an upload, and what they say. */
record UploadFields(Map<String, List<String>> fields, List<FormFile> files) {
  private static final Set<String> FILES = Set.of("file", "attachment", "bundle");

  UploadFields {
    fields = Map.copyOf(fields);
    files = List.copyOf(files);
  }

  /**
   * Refuses what nobody reads: a label in a field “lable” would be lost without a word.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  void check() {
    for (String name : fields.keySet()) {
      if (FILES.contains(name)) {
        throw invalid("the field “" + name + "” takes a file, with a file name");
      }
      if (!UploadForm.ONCE.contains(name) && !UploadForm.OFTEN.contains(name)) {
        throw unknown(name);
      }
      if (UploadForm.ONCE.contains(name) && values(name).size() > 1) {
        throw invalid("the field “" + name + "” is given twice; give it once");
      }
    }
    for (FormFile file : files) {
      if (!FILES.contains(file.field())) {
        throw UploadForm.ONCE.contains(file.field()) || UploadForm.OFTEN.contains(file.field())
            ? invalid("the field “" + file.field() + "” takes a text, not a file")
            : unknown(file.field());
      }
    }
    if (word("stream") == null) {
      throw invalid("the form has no field “stream”; name the stream that the results belong to");
    }
    String status = word("job_status");
    boolean wrong = status != null && Job.Status.of(status) != Job.Status.PASSED;
    if (of("file").isEmpty() && !wrong) {
      throw invalid(
          "the form has no field “file”; send at least one result file, or say that the job failed"
              + " (job_status)");
    }
    if (status == null && fields.keySet().stream().anyMatch(name -> name.startsWith("job_"))) {
      throw invalid("what is told of a job needs its end: job_status passed, failed or cancelled");
    }
  }

  private static CellarException unknown(String name) {
    Set<String> known = new TreeSet<>(UploadForm.ONCE);
    known.addAll(UploadForm.OFTEN);
    known.addAll(FILES);
    String shown = name.length() > 80 ? name.substring(0, 80) + "…" : name;
    return invalid("there is no field “" + shown + "”; there are: " + String.join(", ", known));
  }

  /** Files under a field. */
  List<FormFile> of(String field) {
    return files.stream().filter(file -> file.field().equals(field)).toList();
  }

  private List<String> values(String name) {
    return fields.getOrDefault(name, List.of());
  }

  /** A field that comes once; null when it did not. */
  @Nullable String word(String name) {
    List<String> values = values(name);
    return values.isEmpty() ? null : values.get(0);
  }

  /**
   * What the sender says of the upload.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  UploadRequest request(int projectId) {
    return new UploadForm(fields).request(projectId);
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
