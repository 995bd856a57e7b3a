package org.vinecellar.standins.tracker;

import com.fasterxml.jackson.core.type.TypeReference;
import com.fasterxml.jackson.databind.ObjectMapper;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.function.Supplier;
import java.util.function.UnaryOperator;
import org.jspecify.annotations.Nullable;

/** All entries, kept in a file when there is one. Thread-safe. */
final class LogBook {
  private static final ObjectMapper JSON = new ObjectMapper();

  private final @Nullable Path file;
  private final Supplier<Instant> clock;
  private final Map<String, LogEntry> entries = new LinkedHashMap<>();
  private int latest;

  LogBook(@Nullable Path file, Supplier<Instant> clock) {
    this.file = file;
    this.clock = clock;
    if (file != null && Files.exists(file)) {
      try {
        JSON.readValue(Files.readAllBytes(file), new TypeReference<List<LogEntry>>() {})
            .forEach(this::put);
      } catch (IOException e) {
        throw new UncheckedIOException(e);
      }
    }
  }

  private void put(LogEntry entry) {
    entries.put(entry.key(), entry);
    latest = Math.max(latest, number(entry));
  }

  private static int number(LogEntry entry) {
    return Integer.parseInt(entry.key().substring(entry.key().indexOf('-') + 1));
  }

  synchronized LogEntry make(String title, String text) {
    LogEntry made =
        new LogEntry(
            "LOG-" + (latest + 1), title, text, "to do", clock.get().toString(), null, List.of());
    put(made);
    save();
    return made;
  }

  /** Those that have all of the words, the latest first. */
  synchronized List<LogEntry> find(String words, int most) {
    String[] wanted = words.toLowerCase(Locale.ROOT).strip().split("\\s+");
    return entries.values().stream()
        .sorted(Comparator.comparingInt(LogBook::number).reversed())
        .filter(
            entry -> {
              String all =
                  (entry.key() + " " + entry.title() + " " + entry.text()).toLowerCase(Locale.ROOT);
              return List.of(wanted).stream().allMatch(all::contains);
            })
        .limit(most)
        .toList();
  }

  synchronized Optional<LogEntry> read(String key) {
    return Optional.ofNullable(entries.get(key));
  }

  synchronized List<LogEntry> all() {
    return List.copyOf(entries.values());
  }

  synchronized boolean say(String key, String text) {
    return change(
        key,
        entry -> {
          List<String> said = new ArrayList<>(entry.said());
          said.add(text);
          return new LogEntry(
              entry.key(),
              entry.title(),
              entry.text(),
              entry.state(),
              entry.madeAt(),
              entry.closedAt(),
              said);
        });
  }

  /**
   * @param since when that was so; now when it is null
   */
  synchronized boolean stand(String key, String state, @Nullable String since) {
    return LogEntry.STATES.contains(state)
        && change(
            key,
            entry -> {
              boolean closed = LogEntry.STATES.indexOf(state) > 1;
              String at = since == null ? clock.get().toString() : since;
              return new LogEntry(
                  entry.key(),
                  entry.title(),
                  entry.text(),
                  state,
                  entry.madeAt(),
                  closed ? (entry.isClosed() && since == null ? entry.closedAt() : at) : null,
                  entry.said());
            });
  }

  synchronized boolean lose(String key) {
    boolean lost = entries.remove(key) != null;
    save();
    return lost;
  }

  private boolean change(String key, UnaryOperator<LogEntry> how) {
    LogEntry before = entries.get(key);
    if (before == null) {
      return false;
    }
    entries.put(key, how.apply(before));
    save();
    return true;
  }

  private void save() {
    if (file == null) {
      return;
    }
    try {
      Path next = file.resolveSibling(file.getFileName() + ".next");
      Files.write(next, JSON.writeValueAsBytes(List.copyOf(entries.values())));
      Files.move(next, file, StandardCopyOption.REPLACE_EXISTING);
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
  }
}
