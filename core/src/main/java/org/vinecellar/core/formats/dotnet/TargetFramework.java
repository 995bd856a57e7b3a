package org.vinecellar.core.formats.dotnet;

import com.google.re2j.Matcher;
import com.google.re2j.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Variant;

/**
 * For which framework an assembly was built, under the short name that projects call it by ("Target
 * frameworks in SDK-style projects" of .NET's documentation): a project that is built for several
 * runs the same tests in each.
 */
final class TargetFramework {
  private static final String KEY = "framework";

  /** A directory that builds put such an assembly into. */
  private static final Pattern DIRECTORY =
      Pattern.compile(
          "(?i)[/\\\\]((?:net|netcoreapp|netstandard)[0-9]+(?:\\.[0-9]+)*(?:-[a-z]+[0-9.]*)?)[/\\\\]");

  private static final Pattern MONIKER =
      Pattern.compile("\\.?(NETCoreApp|NETFramework|NETStandard),\\s*Version=v([0-9.]+).*");

  private static final int FIRST_OF_NET = 5;

  private TargetFramework() {}

  /**
   * As files tell it.
   *
   * @param moniker such as {@code .NETCoreApp,Version=v8.0}; null when not told
   * @param path of the assembly; null when not told
   */
  static Variant of(@Nullable String moniker, @Nullable String path) {
    if (moniker != null) {
      Matcher known = MONIKER.matcher(moniker);
      return Variant.told(KEY, known.matches() ? shortName(known) : moniker);
    }
    Matcher directory = path == null ? null : DIRECTORY.matcher(path);
    return directory != null && directory.find()
        ? Variant.told(KEY, directory.group(1).toLowerCase(java.util.Locale.ROOT))
        : Variant.NONE;
  }

  private static String shortName(Matcher moniker) {
    String version = moniker.group(2);
    return switch (moniker.group(1)) {
      case "NETFramework" -> "net" + version.replace(".", "");
      case "NETStandard" -> "netstandard" + version;
      default -> (major(version) < FIRST_OF_NET ? "netcoreapp" : "net") + version;
    };
  }

  private static int major(String version) {
    String major = version.split("\\.", -1)[0];
    return major.matches("[0-9]{1,4}") ? Integer.parseInt(major) : FIRST_OF_NET;
  }
}
