package org.vinecellar.client.command;

import com.fasterxml.jackson.databind.JsonNode;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;

/**
 * A run as it is named on a command line: {@code booking-api/nightly#12}, or the stream alone for
 * its latest run.
 *
 * @param number null for the latest
 */
record RunName(String stream, @Nullable String number) {
  private static final Pattern RUN = Pattern.compile("(\\S+?)(?:#([0-9]{1,9}))?");

  static RunName of(String text) {
    Matcher matcher = RUN.matcher(text);
    if (!matcher.matches()) {
      throw new CommandException(
          ExitCode.WRONG_CALL, "“" + text + "” is not a run; write it as booking-api/nightly#12");
    }
    return new RunName(matcher.group(1), matcher.group(2));
  }

  /**
   * What is changed for good is named in full: a run by its number, a stream without one.
   *
   * @param all whether a stream is meant
   */
  static RunName named(String text, boolean all) {
    RunName name = of(text);
    if (all != (name.number == null)) {
      throw new CommandException(
          ExitCode.WRONG_CALL,
          all
              ? "--all is of a whole stream; name it without a number, as in " + name.stream
              : "name the run by its number, as in "
                  + name.stream
                  + "#12, or all of them by --all");
    }
    return name;
  }

  /** The run as the portal knows it. */
  JsonNode find(Portal portal) {
    Map<String, String> query = new LinkedHashMap<>();
    query.put("stream", stream);
    query.put("limit", "1");
    if (number != null) {
      query.put("number", number);
    }
    JsonNode found = portal.get("runs", query);
    if (!found.isArray()) {
      throw new CommandException(
          ExitCode.NOT_REACHED,
          "what answers at " + portal.base() + " is not the portal: it tells no list of runs");
    }
    if (found.isEmpty()) {
      throw new CommandException(
          ExitCode.NOTHING_FOUND, "there is no run " + this + "; see vine runs --stream …");
    }
    return found.get(0);
  }

  @Override
  public String toString() {
    return number == null ? stream : stream + "#" + number;
  }
}
