package org.vinecellar.core.formats.xml;

import java.io.IOException;
import java.io.InputStream;
import javax.xml.stream.XMLStreamException;
import org.codehaus.stax2.XMLStreamReader2;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.formats.CaseHandler;
import org.vinecellar.core.formats.CutOffException;
import org.vinecellar.core.formats.FailedSetUp;
import org.vinecellar.core.formats.Problems;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.formats.Repeat;
import org.vinecellar.core.formats.ResultReader;
import org.vinecellar.core.formats.UnreadableFileException;
import org.vinecellar.core.results.Failure;
import org.vinecellar.core.results.SuitePath;
import org.vinecellar.core.results.TestResult;

/** A reader of one XML document: opens it, counts its cases, and knows the usual elements. */
public abstract class DocumentReader implements ResultReader {
  /** Made anew for each file. */
  public abstract static class Parser {
    protected final XMLStreamReader2 xml;
    protected final TextReader texts;
    protected final ReadLimits limits;
    protected final Problems problems;
    private final CaseHandler handler;
    private int count;
    private int depth;

    /** For one file. */
    protected Parser(Source source) {
      this.xml = source.xml;
      this.texts = source.texts;
      this.limits = source.limits;
      this.problems = source.problems;
      this.handler = source.handler;
    }

    /** Called on the start of the root element; reads to its end. */
    protected abstract void root() throws XMLStreamException;

    /** Called when the file has ended too early. */
    protected void cutOff() {
      // most formats tell of a test only when it has ended
    }

    /** Takes one child element; what it does not read is passed over. */
    @FunctionalInterface
    public interface Child {
      /** True when it has read the element to its end. */
      boolean read(String element) throws XMLStreamException;
    }

    /** Goes through the children of the present element, whose names come without prefix. */
    protected void children(Child child) throws XMLStreamException {
      if (++depth > limits.maxDepth()) {
        throw new UnreadableFileException(
            "nests elements deeper than "
                + limits.maxDepth()
                + " at line "
                + xml.getLocation().getLineNumber());
      }
      while (texts.nextChild()) {
        if (!child.read(XmlRoot.local(xml.getLocalName()))) {
          texts.skip();
        }
      }
      depth--;
    }

    /** A bounded attribute; null when it is missing or blank. */
    protected @Nullable String attribute(String name) {
      String value = texts.name(name);
      return value == null || value.isBlank() ? null : value;
    }

    /** Hands on a result, within the limit. These formats tell of each test once. */
    protected void emit(TestResult result) {
      if (++count > limits.maxCases()) {
        throw new UnreadableFileException(
            "has more than " + limits.maxCases() + " cases; split it into several files");
      }
      handler.onCase(result, Repeat.OTHER);
    }

    /** Hands on the failed set-up of a suite. */
    protected void emitSetUp(SuitePath suite, Failure failure) {
      emit(FailedSetUp.of(suite, null, failure));
    }

    /** A property of the file as a whole; nothing when there is no value. */
    protected void property(String name, @Nullable String value) {
      if (value != null) {
        handler.onProperty(name, value);
      }
    }

    /** The file itself says that something failed. */
    protected void failed(String says) {
      handler.onFailed(says);
    }

    /** The file ends before the test run did. */
    protected void brokenOff(String how) {
      handler.onBrokenOff(how);
    }
  }

  /** What a parser is made from. */
  public record Source(
      XMLStreamReader2 xml,
      TextReader texts,
      ReadLimits limits,
      Problems problems,
      CaseHandler handler) {}

  /** A parser for one file. */
  protected abstract Parser parser(Source source);

  @Override
  public void read(InputStream content, String fileName, ReadLimits limits, CaseHandler handler)
      throws IOException {
    Problems problems = new Problems(handler, limits.maxProblems());
    Parser[] made = new Parser[1];
    try {
      XmlFile.read(
          content,
          limits,
          problems,
          (xml, texts) -> {
            Parser parser = parser(new Source(xml, texts, limits, problems, handler));
            made[0] = parser;
            parser.root();
          });
    } catch (CutOffException e) {
      if (made[0] != null) {
        made[0].cutOff();
      }
      throw e;
    }
    problems.close();
  }
}
