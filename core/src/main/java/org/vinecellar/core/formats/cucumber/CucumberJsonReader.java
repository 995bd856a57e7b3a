package org.vinecellar.core.formats.cucumber;

import java.io.IOException;
import java.io.InputStream;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.FileHead;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.json.JsonFile;
import org.vinecellar.core.formats.json.JsonHead;

/**
 * Reads the older JSON of written scenarios: an array of features. Backgrounds stand before each
 * scenario (JVM), in it (Node), or in it and before it (Python).
 */
public final class CucumberJsonReader implements ResultReader {
  @Override
  public String format() {
    return "cucumber-json";
  }

  @Override
  public boolean recognises(FileHead head) {
    JsonHead json = JsonHead.of(head);
    return json.array() && json.has("elements")
        || json.array() && json.has("keyword", "name") && (json.has("uri") || json.has("location"));
  }

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    FeatureParser parser = new FeatureParser(limits, handler, problems);
    JsonFile.read(
        content, limits, document -> document.array(() -> parser.feature(document.tree())));
    problems.close();
  }
}
