package org.vinecellar.client.settings;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.snakeyaml.engine.v2.api.Load;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;

/**
 * {@code vine.yaml}: what a repository says once for all of its jobs. Found in the working
 * directory or in the nearest one above it.
 */
public final class SettingsFile {
  private static final String NAME = "vine.yaml";
  private static final int MAX_BYTES = 100_000;
  private static final Set<String> WORDS =
      Set.of(
          "url", "stream", "part", "branch", "main-branch", "expect-parts", "retry-for", "spool");
  private static final Set<String> LISTS = Set.of("attach", "column");
  private static final Set<String> MAPS = Set.of("labels", "environment");

  /** Without any setting. */
  public static final SettingsFile NONE = new SettingsFile(Map.of(), Map.of(), Map.of());

  private final Map<String, String> words;
  private final Map<String, List<String>> lists;
  private final Map<String, Map<String, List<String>>> maps;

  private SettingsFile(
      Map<String, String> words,
      Map<String, List<String>> lists,
      Map<String, Map<String, List<String>>> maps) {
    this.words = words;
    this.lists = lists;
    this.maps = maps;
  }

  /**
   * The file that holds for a directory.
   *
   * @throws SettingsException when it cannot be used
   */
  public static SettingsFile near(Path directory) {
    for (Path at = directory.toAbsolutePath().normalize(); at != null; at = at.getParent()) {
      Path file = at.resolve(NAME);
      if (Files.isRegularFile(file)) {
        return read(file);
      }
      if (Files.exists(at.resolve(".git"))) {
        break;
      }
    }
    return NONE;
  }

  static SettingsFile read(Path file) {
    Object root;
    try {
      if (Files.size(file) > MAX_BYTES) {
        throw new SettingsException(file + " is larger than " + MAX_BYTES + " bytes");
      }
      root =
          new Load(
                  LoadSettings.builder()
                      .setLabel(file.toString())
                      .setMaxAliasesForCollections(0)
                      .build())
              .loadFromString(Files.readString(file));
    } catch (IOException e) {
      throw new SettingsException(file + " cannot be read: " + e, e);
    } catch (YamlEngineException e) {
      throw new SettingsException(file + " is not well-formed YAML: " + e.getMessage(), e);
    }
    if (root == null) {
      return NONE;
    }
    if (!(root instanceof Map<?, ?> map)) {
      throw new SettingsException(file + " does not hold “name: value” lines");
    }
    Map<String, String> words = new LinkedHashMap<>();
    Map<String, List<String>> lists = new LinkedHashMap<>();
    Map<String, Map<String, List<String>>> maps = new LinkedHashMap<>();
    map.forEach(
        (key, value) -> {
          String name = String.valueOf(key);
          if (WORDS.contains(name)) {
            words.put(name, name.equals("spool") ? spool(file, value) : word(file, name, value));
          } else if (LISTS.contains(name)) {
            lists.put(name, inside(file, name, list(file, name, value)));
          } else if (MAPS.contains(name)) {
            maps.put(name, inner(file, name, value));
          } else {
            throw unknown(file, name);
          }
        });
    return new SettingsFile(words, lists, maps);
  }

  private static SettingsException unknown(Path file, String name) {
    Set<String> known = new TreeSet<>(WORDS);
    known.addAll(LISTS);
    known.addAll(MAPS);
    return new SettingsException(
        file
            + " has the setting “"
            + name
            + "”, which does not exist; there are "
            + String.join(", ", known)
            + (name.equals("token") ? ". A token belongs into VINE_TOKEN, not into a file" : ""));
  }

  private static String word(Path file, String name, @Nullable Object value) {
    if (value == null || value instanceof Map || value instanceof List) {
      throw new SettingsException(file + ": “" + name + "” takes one value");
    }
    return value.toString();
  }

  private static List<String> list(Path file, String name, @Nullable Object value) {
    List<String> list = new ArrayList<>();
    if (value instanceof List<?> all) {
      all.forEach(one -> list.add(word(file, name, one)));
    } else {
      list.add(word(file, name, value));
    }
    return list;
  }

  /** What is told once for all jobs lies in the repository, as the file does. */
  private static String spool(Path file, @Nullable Object value) {
    String name = word(file, "spool", value);
    if (leadsOut(name)) {
      throw new SettingsException(
          file + ": “spool: " + name + "” leads out of the repository; set VINE_SPOOL for that");
    }
    return name;
  }

  /** A repository attaches what is its own, not what else is on the machine. */
  private static List<String> inside(Path file, String name, List<String> values) {
    for (String value : name.equals("attach") ? values : List.<String>of()) {
      if (leadsOut(value)) {
        throw new SettingsException(
            file + ": “attach: " + value + "” leads out of the repository; give --attach for that");
      }
    }
    return values;
  }

  private static boolean leadsOut(String value) {
    return value.startsWith("/")
        || value.startsWith("~")
        || value.matches("[A-Za-z]:.*")
        || List.of(value.split("[/\\\\]", -1)).contains("..");
  }

  private static Map<String, List<String>> inner(Path file, String name, @Nullable Object value) {
    if (!(value instanceof Map<?, ?> map)) {
      throw new SettingsException(file + ": “" + name + "” takes lines of “name: value” below it");
    }
    Map<String, List<String>> inner = new LinkedHashMap<>();
    map.forEach((key, one) -> inner.put(String.valueOf(key), list(file, name + ": " + key, one)));
    Set<String> values = PipelineEnvironment.table().keySet();
    for (String key : name.equals("environment") ? inner.keySet() : Set.<String>of()) {
      if (!values.contains(key)) {
        throw new SettingsException(
            file + ": “environment” has no “" + key + "”; it has " + String.join(", ", values));
      }
    }
    return inner;
  }

  /** A single value; null when it is not set. */
  public @Nullable String word(String name) {
    return words.get(name);
  }

  /** Several values; empty when none is set. */
  public List<String> list(String name) {
    return lists.getOrDefault(name, List.of());
  }

  /** Labels of every run. */
  public Map<String, String> labels() {
    Map<String, String> labels = new LinkedHashMap<>();
    maps.getOrDefault("labels", Map.of())
        .forEach((key, values) -> labels.put(key, String.join(",", values)));
    return labels;
  }

  /** Names of environment variables that tell one of our values, before the usual ones. */
  List<String> variables(String value) {
    return maps.getOrDefault("environment", Map.of()).getOrDefault(value, List.of());
  }
}
