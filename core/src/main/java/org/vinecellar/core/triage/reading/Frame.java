package org.vinecellar.core.triage.reading;

import java.util.Objects;

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

  /** The name of the file without directories and extension; empty where unknown. */
  public String fileStem() {
    return CodeNames.stem(path);
  }

  /** The class, or where none is told the file, spelled in one way for all languages. */
  public String place() {
    String named = owner.isEmpty() ? fileStem() : owner;
    return CodeNames.plain(named);
  }
}
