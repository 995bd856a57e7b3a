package org.vinecellar.core.attachments;

import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Attachment;
import org.vinecellar.core.results.Attempt;
import org.vinecellar.core.results.TestResult;

/**
 * Files that a test names in what it prints, as {@code [[ATTACHMENT|path]]} on a line of its own,
 * or by a property called {@code attachment}. Build servers of several makers read these marks.
 */
public final class AttachmentMarks {
  private static final String OPEN = "[[ATTACHMENT|";
  private static final String CLOSE = "]]";
  private static final String PROPERTY = "attachment";
  private static final int MAX_PATH = 1000;
  private static final int MOST = 200;

  private AttachmentMarks() {}

  /** The result with what it names attached; the same result when it names nothing. */
  public static TestResult taken(TestResult result) {
    String property = result.properties().isEmpty() ? null : result.properties().get(PROPERTY);
    boolean marked = property != null;
    for (Attempt attempt : result.attempts()) {
      marked |= has(attempt.stdout()) || has(attempt.stderr());
    }
    if (!marked) {
      return result;
    }
    List<Attempt> attempts = new ArrayList<>();
    for (int i = 0; i < result.attempts().size(); i++) {
      Attempt attempt = result.attempts().get(i);
      List<Attachment> all = new ArrayList<>(attempt.attachments());
      find(attempt.stdout(), all);
      find(attempt.stderr(), all);
      if (property != null && i == result.attempts().size() - 1) {
        property.lines().forEach(path -> add(path, all));
      }
      attempts.add(all.size() == attempt.attachments().size() ? attempt : attempt.with(all));
    }
    return result.with(attempts);
  }

  private static boolean has(@Nullable String text) {
    return text != null && text.contains(OPEN);
  }

  private static void find(@Nullable String text, List<Attachment> all) {
    if (text == null) {
      return;
    }
    int at = text.indexOf(OPEN);
    while (at >= 0 && all.size() < MOST) {
      int end = text.indexOf(CLOSE, at);
      int line = text.indexOf('\n', at);
      if (end > 0 && (line < 0 || end < line)) {
        add(text.substring(at + OPEN.length(), end), all);
      }
      at = text.indexOf(OPEN, at + OPEN.length());
    }
  }

  private static void add(String path, List<Attachment> all) {
    String plain = path.strip();
    if (!plain.isEmpty() && plain.length() <= MAX_PATH && all.size() < MOST) {
      all.add(Attachment.at(plain, null, null));
    }
  }
}
