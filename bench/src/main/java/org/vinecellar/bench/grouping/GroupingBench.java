package org.vinecellar.bench.grouping;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;

/**
 * Makes streams of all faces and scores the grouping of each: what may be tuned on, the causes that
 * are kept back, and the frameworks that are kept back whole.
 */
public final class GroupingBench {
  private GroupingBench() {}

  /** A stream with its score. */
  public record Measured(String name, Scores.Score score) {}

  /**
   * @param faces the directory of the faces
   * @param folder where streams are made
   */
  static List<Measured> run(Path faces, Path folder, long seed, boolean tell) throws IOException {
    List<Faces.Framework> all = Faces.all(faces);
    List<Faces.Framework> open = all.stream().filter(f -> !f.held()).toList();
    List<Faces.Framework> held = all.stream().filter(Faces.Framework::held).toList();
    List<Measured> measured = new ArrayList<>();
    measured.add(one("tuned", open, cause -> !MadeStream.isHeld(cause), folder, seed, tell));
    measured.add(one("kept-back causes", open, MadeStream::isHeld, folder, seed + 1, false));
    if (!held.isEmpty()) {
      measured.add(one("kept-back frameworks", held, cause -> true, folder, seed + 2, false));
    }
    return measured;
  }

  private static Measured one(
      String name,
      List<Faces.Framework> frameworks,
      Predicate<String> wanted,
      Path folder,
      long seed,
      boolean tell)
      throws IOException {
    Path directory = Files.createDirectories(folder.resolve(name.replace(' ', '-')));
    new MadeStream(seed).write(directory, frameworks, wanted);
    Judge judge = new Judge();
    Scores.Score score = judge.of(directory);
    if (tell) {
      judge.tell(30);
    }
    return new Measured(name, score);
  }

  /**
   * Takes the directory of the faces, one to write to, and perhaps a seed; tells what went wrong in
   * what may be tuned on.
   */
  public static void main(String[] args) throws IOException {
    long seed = args.length > 2 ? Long.parseLong(args[2]) : 7;
    run(Path.of(args[0]), Path.of(args[1]), seed, true)
        .forEach(m -> System.out.println(m.name() + ": " + m.score()));
  }
}
