package org.vinecellar.core.formats.robot;

import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.xml.DocumentReader;
import org.vinecellar.core.formats.xml.XmlRoot;

/**
 * Reads {@code output.xml} of Robot Framework 3 and later: suites in suites, tests, keywords with
 * what they logged. Its schema is public with the framework (doc/schema/robot.xsd).
 */
public final class RobotReader extends DocumentReader {
  @Override
  public String format() {
    return "robot-xml";
  }

  @Override
  public boolean recognises(FileHead head) {
    return XmlRoot.name(head).equals("robot") && XmlRoot.attributes(head).contains("generator=");
  }

  @Override
  protected Parser parser(Source source) {
    return new RobotParser(source);
  }
}
