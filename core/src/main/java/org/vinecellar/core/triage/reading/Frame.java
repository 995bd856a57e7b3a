package org.vinecellar.core.triage.reading;

import java.util.Objects;
import java.util.Set;

/**
 * A place in code that a trace names.
 *
 * @param qualified the function with all that stands before it, as printed; empty where only a file
 *     is told
 * @param owner the class or module of the function, without package, generated parts and generics;
 *     empty where unknown
 * @param function without generated parts; empty where only a file is told
 * @param path of the file as printed; empty where unknown
 * @param line from 1; 0 where unknown
 */
public record Frame(String qualified, String owner, String function, String path, int line) {
  /** Stands in the path before a class or package of code that has no file. */
  public static final String OF_IMAGE = "image:";

  /** Names of files that every directory may have. */
  private static final Set<String> OF_DIRECTORIES =
      Set.of("index", "mod", "__init__", "__main__", "main", "page", "route", "layout", "init");

  /** Checks nulls. */
  public Frame {
    Objects.requireNonNull(qualified);
    Objects.requireNonNull(owner);
    Objects.requireNonNull(function);
    Objects.requireNonNull(path);
  }

  /** The frame of a printed function in a file. */
  public static Frame of(String qualified, String path, int line) {
    CodeNames.Name name = CodeNames.of(qualified);
    return new Frame(qualified, name.owner(), name.function(), path, line);
  }

  /** The same code, of which no line is told. */
  public Frame anyLine() {
    return line == 0 ? this : new Frame(qualified, owner, function, path, 0);
  }

  /** The name of the file without directories and extension; empty where unknown. */
  public String fileStem() {
    return CodeNames.stem(path);
  }

  /**
   * The class, or where none is told the file, spelled in one way for all languages; a file that is
   * called after what it is to its directory has the name of that in front.
   */
  public String place() {
    return CodeNames.plain(owner.isEmpty() ? fileName() : owner);
  }

  /** The file without extension, with its directory where it has no name of its own. */
  public String fileName() {
    String stem = fileStem();
    if (!OF_DIRECTORIES.contains(stem)) {
      return stem;
    }
    String[] parts = path.split("[/\\\\]");
    return parts.length < 2 ? stem : parts[parts.length - 2] + "/" + stem;
  }
}
