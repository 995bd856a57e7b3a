package org.vinecellar.client.command;

import java.io.IOException;
import java.nio.file.FileSystems;
import java.nio.file.FileVisitResult;
import java.nio.file.Files;
import java.nio.file.InvalidPathException;
import java.nio.file.Path;
import java.nio.file.PathMatcher;
import java.nio.file.SimpleFileVisitor;
import java.nio.file.attribute.BasicFileAttributes;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeSet;
import java.util.function.Consumer;
import java.util.regex.PatternSyntaxException;
import org.vinecellar.client.output.Terminal;
import org.vinecellar.core.ingest.PathVariants;

/** Files named on a command line, or matched by patterns that the shell left alone. */
final class FilePatterns {
  private FilePatterns() {}

  /**
   * The files, each once, in the order of the arguments and by name within a pattern.
   *
   * @throws CommandException when one of the arguments matches nothing, with what is there instead:
   *     half of the results must not be taken for all of them
   */
  static List<Path> find(List<String> arguments, boolean allowEmpty, Terminal terminal) {
    List<Path> files = new ArrayList<>();
    List<String> empty = new ArrayList<>();
    for (String argument : arguments) {
      List<Path> found = find(PathVariants.anything(argument), terminal);
      found.stream().filter(path -> !files.contains(path)).forEach(files::add);
      if (found.isEmpty()) {
        empty.add(argument);
      }
    }
    if (empty.isEmpty()) {
      return files;
    }
    String message = "no file matches " + String.join(", ", empty) + hint(empty.get(0));
    if (!allowEmpty) {
      throw new CommandException(
          ExitCode.NOTHING_FOUND,
          message + ". Nothing was sent. If that is as it should be, add --allow-empty");
    }
    terminal.note(message);
    return files;
  }

  /** Those in which keys in braces stand for variants, as in {@code build/{jdk}/*.xml}. */
  static List<String> variants(List<String> arguments) {
    return arguments.stream().filter(PathVariants::tells).toList();
  }

  private static List<Path> find(String argument, Terminal terminal) {
    Path literal = path(argument);
    if (Files.isRegularFile(literal)) {
      return List.of(literal);
    }
    if (Files.isDirectory(literal)) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          argument + " is a directory; name its files, as in '" + argument + "/**/*.xml'");
    }
    return isPattern(argument) ? match(argument, terminal) : List.of();
  }

  private static Path path(String text) {
    try {
      return Path.of(text);
    } catch (InvalidPathException e) {
      throw new CommandException(ExitCode.WRONG_CALL, "“" + text + "” is not a path");
    }
  }

  private static boolean isPattern(String argument) {
    return argument.chars().anyMatch(c -> c == '*' || c == '?' || c == '[' || c == '{');
  }

  /** The directory above the first name with a wildcard. */
  private static Path base(String pattern) {
    int wild = 0;
    while (wild < pattern.length() && "*?[{".indexOf(pattern.charAt(wild)) < 0) {
      wild++;
    }
    int slash = pattern.lastIndexOf('/', wild);
    return path(slash < 0 ? "." : slash == 0 ? "/" : pattern.substring(0, slash));
  }

  /**
   * Makes sure that each is a pattern, before anything matches it.
   *
   * @throws CommandException {@code WRONG_CALL} that names the one that is not
   */
  static void check(List<String> patterns) {
    patterns.forEach(
        pattern -> {
          PathMatcher unused = matcher(PathVariants.anything(pattern));
        });
  }

  private static PathMatcher matcher(String pattern) {
    try {
      return FileSystems.getDefault().getPathMatcher("glob:" + pattern);
    } catch (PatternSyntaxException e) {
      throw new CommandException(
          ExitCode.WRONG_CALL, "the pattern “" + pattern + "” is not one: " + e.getDescription());
    }
  }

  private static List<Path> match(String pattern, Terminal terminal) {
    Path base = base(pattern);
    if (!Files.isDirectory(base)) {
      return List.of();
    }
    String relative = pattern.startsWith("./") ? pattern.substring(2) : pattern;
    List<PathMatcher> matchers = new ArrayList<>();
    matchers.add(matcher(relative));
    if (relative.contains("**/")) {
      // As shells have it, "**/" also stands for no directory at all.
      matchers.add(matcher(relative.replace("**/", "")));
    }
    TreeSet<Path> found = new TreeSet<>();
    walk(
        base,
        terminal,
        path -> {
          Path normal = path.normalize();
          if (matchers.stream().anyMatch(m -> m.matches(normal))) {
            found.add(normal);
          }
        });
    return List.copyOf(found);
  }

  private static void walk(Path base, Terminal terminal, Consumer<Path> each) {
    try {
      Files.walkFileTree(
          base,
          new SimpleFileVisitor<>() {
            @Override
            public FileVisitResult visitFile(Path file, BasicFileAttributes attributes) {
              if (attributes.isRegularFile()) {
                each.accept(file);
              } else if (attributes.isSymbolicLink() && Files.isRegularFile(file)) {
                link(file);
              }
              return FileVisitResult.CONTINUE;
            }

            /** A link in a tree of results must not fetch what else is on the machine. */
            private void link(Path file) {
              try {
                Path target = file.toRealPath();
                if (target.startsWith(base.toRealPath())
                    || target.startsWith(Path.of("").toRealPath())) {
                  each.accept(file);
                } else {
                  terminal.note(file + " is a link that leads elsewhere; it is left out");
                }
              } catch (IOException e) {
                terminal.note(file + " is a link that cannot be followed: " + e.getMessage());
              }
            }

            @Override
            public FileVisitResult visitFileFailed(Path file, IOException e) {
              throw new CommandException(
                  ExitCode.UNREADABLE, file + " cannot be looked into: " + e.getMessage());
            }
          });
    } catch (IOException e) {
      throw new CommandException(
          ExitCode.UNREADABLE, base + " cannot be looked into: " + e.getMessage());
    }
  }

  private static String hint(String argument) {
    Path base = isPattern(argument) ? base(argument) : path(argument).toAbsolutePath().getParent();
    if (base == null || !Files.isDirectory(base)) {
      return " (there is no directory " + base + " here, in " + path("").toAbsolutePath() + ")";
    }
    try (var entries = Files.list(base)) {
      List<String> names =
          entries.map(entry -> entry.getFileName().toString()).sorted().limit(4).toList();
      return names.isEmpty()
          ? " (the directory " + base + " is empty)"
          : " (the directory " + base + " holds " + String.join(", ", names) + "…)";
    } catch (IOException e) {
      return "";
    }
  }
}
