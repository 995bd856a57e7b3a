package org.vinecellar.core.ingest;

import java.util.List;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/** An upload that was refused as a whole, since some of its files cannot be read. */
public final class UnreadableUploadException extends CellarException {
  private static final long serialVersionUID = 1L;

  /** As many files without a fault are named. */
  private static final int NAMED = 3;

  private final transient List<FileReport> files;

  UnreadableUploadException(UploadReport report) {
    super(ProblemCode.UNREADABLE_FILE, message(report));
    this.files = report.unreadable();
  }

  private static String message(UploadReport report) {
    List<FileReport> bad = report.unreadable();
    FileReport first = bad.get(0);
    String more = bad.size() == 1 ? "" : "; " + (bad.size() - 1) + " more cannot be read either";
    return first.file()
        + " "
        + first.error()
        + more
        + "."
        + fine(report)
        + " Nothing of the upload was stored.";
  }

  /** Names what is not at fault, so that nobody looks there. */
  private static String fine(UploadReport report) {
    List<String> fine =
        report.files().stream().filter(file -> file.error() == null).map(FileReport::file).toList();
    if (fine.isEmpty()) {
      return "";
    }
    int others = fine.size() - Math.min(fine.size(), NAMED);
    return " "
        + String.join(", ", fine.subList(0, fine.size() - others))
        + (others == 0 ? "" : " and " + others + " more")
        + (fine.size() == 1 ? " is fine." : " are fine.");
  }

  /** The files at fault, each with its error. */
  public List<FileReport> files() {
    return files;
  }
}
