package org.vinecellar.bench;

import java.io.ByteArrayOutputStream;
import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.Locale;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import java.util.zip.GZIPOutputStream;

/** What the first page makes the browser load. */
final class ScriptSize {
  private ScriptSize() {}

  static Bench.Row row() throws IOException {
    Path dist = Path.of(System.getProperty("bench.root"), "console", "dist");
    Matcher scripts =
        Pattern.compile("(?:src|href)=\"/(assets/[^\"]+\\.js)\"")
            .matcher(Files.readString(dist.resolve("index.html")));
    double kilobytes = 0;
    while (scripts.find()) {
      ByteArrayOutputStream packed = new ByteArrayOutputStream();
      try (GZIPOutputStream gzip = new GZIPOutputStream(packed)) {
        gzip.write(Files.readAllBytes(dist.resolve(scripts.group(1))));
      }
      kilobytes += packed.size() / 1000.0;
    }
    return new Bench.Row(
        "script of the first page, gzip",
        String.format(Locale.ROOT, "%.0f KB", kilobytes),
        "",
        "",
        "≤ 150 KB",
        kilobytes <= 150);
  }
}
