package org.vinecellar.core.formats.testng;

import java.io.IOException;
import java.io.InputStream;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.xml.XmlFile;
import org.vinecellar.core.formats.xml.XmlRoot;

/** Reads {@code testng-results.xml}: what JUnit-style XML of the same run leaves out is in it. */
public final class TestNgReader implements ResultReader {
  @Override
  public String format() {
    return "testng-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    return XmlRoot.name(head).equals("testng-results");
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    XmlFile.read(
        content,
        limits,
        problems,
        (xml, texts) -> new TestNgParser(xml, texts, limits, handler, problems).root());
    problems.close();
  }
}
