package org.vinecellar.bench.grouping;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.function.BiPredicate;
import org.vinecellar.bench.figures.Figure;

/**
 * Makes streams of all faces and scores the grouping of each: what may be tuned on, the causes that
 * are kept back, and the frameworks that are kept back whole.
 */
public final class GroupingBench {
  private GroupingBench() {}

  /** A stream with its score. */
  record Measured(String name, Scores.Score score) {}

  /**
   * @param faces the directory of the faces
   * @param folder where streams are made
   */
  static List<Measured> run(Path faces, Path folder, long seed, boolean tell) throws IOException {
    List<Faces.Framework> all = Faces.all(faces);
    List<Faces.Framework> open = all.stream().filter(f -> !f.held()).toList();
    List<Faces.Framework> held = all.stream().filter(Faces.Framework::held).toList();
    List<Measured> measured = new ArrayList<>();
    BiPredicate<Faces.Framework, String> tuned = Faces.Framework::isOpen;
    measured.add(one("tuned", open, tuned, folder, new MadeStream(seed, false, false), tell));
    measured.add(one("renamed", open, tuned, folder, new MadeStream(seed + 3, true, false), tell));
    measured.add(one("worn", open, tuned, folder, new MadeStream(seed + 4, false, true), tell));
    BiPredicate<Faces.Framework, String> kept = tuned.negate();
    measured.add(
        one("kept-back causes", open, kept, folder, new MadeStream(seed + 1, false, false), false));
    if (!held.isEmpty()) {
      measured.add(
          one(
              "kept-back frameworks",
              held,
              (f, cause) -> true,
              folder,
              new MadeStream(seed + 2, false, false),
              false));
    }
    return measured;
  }

  private static Measured one(
      String name,
      List<Faces.Framework> frameworks,
      BiPredicate<Faces.Framework, String> wanted,
      Path folder,
      MadeStream stream,
      boolean tell)
      throws IOException {
    Path directory = Files.createDirectories(folder.resolve(name.replace(' ', '-')));
    stream.write(directory, frameworks, wanted);
    Judge judge = new Judge();
    Scores.Score score = judge.of(directory);
    if (tell) {
      judge.tell(200);
    }
    return new Measured(name, score);
  }

  /**
   * Measured on the faces of the checkout.
   *
   * @param folder where streams are made
   */
  public static List<Figure> figures(Path folder) throws IOException {
    Path faces = Path.of(System.getProperty("bench.root", ".")).resolve("bench/causes/faces");
    List<Figure> figures = new ArrayList<>();
    for (Measured one : run(faces, folder.resolve("grouping"), 7, false)) {
      figures.addAll(figures(one.name(), one.score(), one.name().endsWith("frameworks")));
    }
    figures.add(
        new Figure(
            "failures read, signed and grouped in a second of one core",
            SpeedBench.measure(),
            20_000));
    return figures;
  }

  private static List<Figure> figures(String name, Scores.Score score, boolean whole) {
    String of = "grouping, " + name + ": ";
    return List.of(
        new Figure(of + "pair F1 over all", score.all().f1(), whole ? 0.85 : 0.97),
        new Figure(of + "pair F1 in the tail", score.tail().f1(), whole ? 0.85 : 0.95),
        new Figure(of + "pair F1 of mass causes", score.mass().f1(), whole ? 0.85 : 0.98),
        new Figure(of + "causes exactly right", score.exact(), whole ? 0.65 : 0.90),
        new Figure(of + "carried precision", score.carriedPrecision(), whole ? 0.99 : 0.995),
        new Figure(of + "carried recall", score.carriedRecall(), whole ? 0.65 : 0.85));
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
