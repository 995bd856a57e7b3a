package org.vinecellar.core.ingest;

import java.util.List;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** An upload that was refused as a whole, since some of its files cannot be read. */
public final class UnreadableUploadException extends CellarException {
  private static final long serialVersionUID = 1L;

  private final transient List<FileReport> files;

  UnreadableUploadException(UploadReport report) {
    super(ProblemCode.UNREADABLE_FILE, message(report));
    this.files = report.unreadable();
  }

  private static String message(UploadReport report) {
    List<FileReport> bad = report.unreadable();
    FileReport first = bad.get(0);
    String more = bad.size() == 1 ? "" : "; " + (bad.size() - 1) + " more cannot be read either";
    return first.file() + " " + first.error() + more + ". Nothing of the upload was stored.";
  }

  /** The files at fault, each with its error. */
  public List<FileReport> files() {
    return files;
  }
}
