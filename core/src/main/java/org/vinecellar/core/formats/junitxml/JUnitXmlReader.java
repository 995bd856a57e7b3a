package org.vinecellar.core.formats.junitxml;

import java.io.IOException;
import java.io.InputStream;
import java.util.regex.Pattern;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.xml.XmlFile;

/**
 * Reads JUnit-style XML in all its dialects: the elements are the truth, headers are hints, and
 * what is not well-formed but harmless is kept and reported.
 */
public final class JUnitXmlReader implements ResultReader {
  private static final Pattern ROOT =
      Pattern.compile(
          "\\A(?:\\s+|<\\?.*?\\?>|<!--.*?-->|<!DOCTYPE[^>]*>)*+<(?:testsuites?)[\\s/>]",
          Pattern.DOTALL);

  @Override
  public String format() {
    return "junit-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    // A declaration in front of the root, such as a DOCTYPE with entities, gets its own message.
    return ROOT.matcher(head.text()).find()
        || (head.isMarkup() && head.text().contains("<!DOCTYPE testsuite"));
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    XmlFile.read(
        content,
        limits,
        problems,
        (xml, texts) -> new JUnitXmlParser(xml, texts, limits, handler, problems).root());
    problems.close();
  }
}
