package org.vinecellar.core.formats.gotest;

import com.google.re2j.Pattern;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.json.LinesReader;

/**
 * Reads what {@code go test -json} writes, alone or with its error output between: one event a line
 * (documentation of Go's {@code cmd/test2json}).
 */
public final class GoTestReader extends LinesReader {
  private static final Pattern EVENT =
      Pattern.compile(
          "(?m)^\\{ *(?:\"(?:Time|ImportPath)\": *\"[^\"]*\", *)?\"Action\": *\"[a-z-]+\" *[,}]");

  @Override
  public String format() {
    return "go-test";
  }

  @Override
  public boolean recognises(FileHead head) {
    return EVENT.matcher(head.text()).find() || PrintedTests.BEGINS.matcher(head.text()).find();
  }

  @Override
  protected Parser parser(ReadLimits limits, CaseHandler handler, Problems problems) {
    return new GoTestParser(limits, handler, problems);
  }
}
