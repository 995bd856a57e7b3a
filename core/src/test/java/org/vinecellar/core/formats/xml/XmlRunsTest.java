package org.vinecellar.core.formats.xml;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.nio.charset.StandardCharsets;
import java.util.Random;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;
import org.junit.jupiter.api.RepeatedTest;
import org.junit.jupiter.api.RepetitionInfo;
import org.junit.jupiter.api.Test;
import org.vinecellar.core.formats.UnreadableFileException;

/** Texts are cut while they are read; what is around them stays as it was. */
class XmlRunsTest {
  private static final int MOST = 40_000;

  private static XmlSanitizer sanitizer(String xml) {
    return new XmlSanitizer(
        new ByteArrayInputStream(xml.getBytes(StandardCharsets.UTF_8)), Long.MAX_VALUE, MOST);
  }

  /** Any mixture of short and long texts, references, CDATA and comments stays well-formed. */
  @RepeatedTest(40)
  void whatIsShortStaysAndWhatIsLongIsCut(RepetitionInfo info) throws Exception {
    Random random = new Random(info.getCurrentRepetition());
    String[] words = {"quay ", "&lt;", "&#x1F6A2;", "é", "]", "€uro", "> ", "&amp;&gt;"};
    StringBuilder xml = new StringBuilder("<r>");
    int elements = 12;
    boolean[] isLong = new boolean[elements];
    for (int i = 0; i < elements; i++) {
      isLong[i] = random.nextInt(3) == 0;
      int length = isLong[i] ? 4 * MOST + random.nextInt(MOST) : random.nextInt(MOST / 4);
      boolean cdata = random.nextBoolean();
      String word = cdata ? "<raw> ]] " : words[random.nextInt(words.length)];
      xml.append("<e").append(i).append(" a='x'>").append(cdata ? "<![CDATA[" : "");
      xml.append(word.repeat(1 + length / word.length())).append(cdata ? "]]>" : "");
      xml.append("</e").append(i).append('>').append(random.nextBoolean() ? "<!-- - -->" : "");
    }
    XmlSanitizer bytes = sanitizer(xml.append("</r>").toString());
    int[] lengths = lengths(bytes, elements);
    int cut = 0;
    for (int i = 0; i < elements; i++) {
      assertThat(lengths[i]).as("element " + i).isPositive();
      cut += isLong[i] ? 1 : 0;
    }
    assertThat(bytes.cut()).isEqualTo(cut);
  }

  private static int[] lengths(XmlSanitizer bytes, int elements) throws XMLStreamException {
    XMLStreamReader xml = XMLInputFactory.newDefaultFactory().createXMLStreamReader(bytes, "UTF-8");
    int[] lengths = new int[elements];
    int at = -1;
    while (xml.hasNext()) {
      int event = xml.next();
      if (event == XMLStreamConstants.START_ELEMENT && xml.getLocalName().startsWith("e")) {
        at = Integer.parseInt(xml.getLocalName().substring(1));
      } else if (at >= 0
          && (event == XMLStreamConstants.CHARACTERS || event == XMLStreamConstants.CDATA)) {
        lengths[at] += xml.getTextLength();
      }
    }
    return lengths;
  }

  @Test
  void aTagThatDoesNotEndIsRefused() {
    for (String begin : new String[] {"<r a='", "<", "<?x "}) {
      XmlSanitizer bytes = sanitizer(begin + "a".repeat(5 * MOST));
      assertThatThrownBy(() -> read(bytes)).isInstanceOf(UnreadableFileException.class);
    }
  }

  private static void read(XmlSanitizer bytes) throws IOException {
    byte[] buffer = new byte[4_000];
    int n = bytes.read(buffer, 0, buffer.length);
    while (n >= 0) {
      n = bytes.read(buffer, 0, buffer.length);
    }
  }
}
