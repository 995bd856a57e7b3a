package org.vinecellar.listeners.junit;

import java.io.BufferedWriter;
import java.io.File;
import java.io.IOException;
import java.io.OutputStreamWriter;
import java.io.Writer;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.TimeUnit;
import org.jspecify.annotations.Nullable;

/**
 * A {@code vine pipe} that is told of tests. Build tools try tests again in a plan of its own right
 * after the first one: the pipe stays open for a moment behind each plan, so that these are tries
 * of one run. Thread-safe.
 */
final class EventPipe {
  private static final long PATIENCE_SECONDS = 120;
  private static final long GRACE_MILLIS = 3_000;

  private static @Nullable EventPipe latest;

  private final Map<String, String> environment;
  private final Map<String, Integer> tries = new ConcurrentHashMap<>();
  private final Thread atEnd = new Thread(this::end, "vine-listener-end");
  private @Nullable Process process;
  private @Nullable Writer events;
  private int plans;

  private EventPipe(Map<String, String> environment) {
    this.environment = environment;
  }

  /** The pipe for a plan that begins: the one of the plan before, when that is still open. */
  static EventPipe forPlan(Map<String, String> environment) {
    synchronized (EventPipe.class) {
      EventPipe before = latest;
      if (before != null && before.environment.equals(environment) && before.goesOn()) {
        return before;
      }
      EventPipe pipe = new EventPipe(environment);
      latest = pipe;
      pipe.start();
      return pipe;
    }
  }

  private synchronized boolean goesOn() {
    if (events == null) {
      return false;
    }
    plans++;
    return true;
  }

  private synchronized void start() {
    plans = 1;
    List<String> command =
        new ArrayList<>(
            List.of(environment.getOrDefault("VINE_COMMAND", "vine").strip().split("\\s+")));
    command.addAll(List.of("pipe", "--quiet"));
    String log = environment.get("VINE_PIPE_LOG");
    ProcessBuilder builder = new ProcessBuilder(command).redirectErrorStream(true);
    builder.redirectOutput(
        log == null ? ProcessBuilder.Redirect.DISCARD : ProcessBuilder.Redirect.to(new File(log)));
    builder.environment().putAll(environment);
    try {
      Process started = builder.start();
      process = started;
      events =
          new BufferedWriter(
              new OutputStreamWriter(started.getOutputStream(), StandardCharsets.UTF_8));
      Runtime.getRuntime().addShutdownHook(atEnd);
    } catch (IOException e) {
      givesUp("it could not start " + String.join(" ", command) + ": " + e.getMessage());
      return;
    } catch (IllegalStateException e) {
      // The JVM ends already; so will the pipe.
    }
    Map<String, String> properties = new LinkedHashMap<>();
    for (String name : List.of("java.version", "java.vendor", "os.name")) {
      properties.put(name, System.getProperty(name, ""));
    }
    write(new EventLine("run").put("properties", properties));
  }

  /** Which try of a test this is, from 1. */
  int nextTry(String test) {
    return tries.merge(test, 1, Integer::sum);
  }

  synchronized void write(EventLine line) {
    Writer out = events;
    if (out == null) {
      return;
    }
    try {
      out.write(line.toString());
      out.flush();
    } catch (IOException e) {
      events = null;
      givesUp("vine pipe went away: " + e.getMessage());
    }
  }

  /** A plan has ended. Unless another one begins soon, so does the pipe. */
  synchronized void planEnded() {
    int ended = plans;
    Thread later =
        new Thread(
            () -> {
              try {
                Thread.sleep(GRACE_MILLIS);
              } catch (InterruptedException e) {
                Thread.currentThread().interrupt();
              }
              endUnlessAnother(ended);
            },
            "vine-listener-grace");
    later.setDaemon(true);
    later.start();
  }

  private void endUnlessAnother(int plan) {
    synchronized (this) {
      if (plans != plan) {
        return;
      }
    }
    end();
    try {
      boolean unused = Runtime.getRuntime().removeShutdownHook(atEnd);
    } catch (IllegalStateException e) {
      // The JVM ends, and waits for it.
    }
  }

  /** Says that the run is over, and waits until it was sent. */
  private void end() {
    Process ending;
    synchronized (this) {
      Writer out = events;
      write(new EventLine("run finished"));
      events = null;
      ending = process;
      if (out != null) {
        try {
          out.close();
        } catch (IOException e) {
          givesUp("vine pipe went away: " + e.getMessage());
        }
      }
    }
    if (ending == null) {
      return;
    }
    try {
      if (!ending.waitFor(PATIENCE_SECONDS, TimeUnit.SECONDS)) {
        givesUp("vine pipe did not end in time; what it read is in its spool");
      } else if (ending.exitValue() != 0) {
        givesUp("vine pipe ended with " + ending.exitValue() + "; see VINE_PIPE_LOG");
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** For tests, which do not wait: ends what is open. */
  static void endLatest() {
    EventPipe pipe;
    synchronized (EventPipe.class) {
      pipe = latest;
      latest = null;
    }
    if (pipe != null) {
      pipe.end();
    }
  }

  private static void givesUp(String why) {
    System.err.println("vine: results are not sent from here: " + why);
  }
}
