package org.vinecellar.core.triage.tickets;

import java.util.List;
import java.util.Locale;
import java.util.Objects;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;

/**
 * How a tracker is spoken to over HTTP: templates of URLs and of JSON bodies, in which <code>{text}
 * </code> and the like stand for values, and where its answers hold what. Empty texts stand for
 * what it cannot do.
 *
 * @param name what people call the tracker
 * @param find finds entries by a text: {text}, {most}
 * @param read reads one: {key}
 * @param page where people look at one: {key}
 * @param create makes one, by POST
 * @param createBody of that: {title}, {text}
 * @param comment says something of one, by POST: {key}
 * @param commentBody of that: {key}, {text}
 * @param header that goes with every call, as {@code Authorization: Bearer {secret}}
 * @param where what stands in the answers
 * @param closed states, in the tracker's words, in which nobody has to do anything any more
 */
public record TrackerSettings(
    String name,
    String find,
    String read,
    String page,
    String create,
    String createBody,
    String comment,
    String commentBody,
    String header,
    Where where,
    List<String> closed) {
  private static final Pattern URL = Pattern.compile("(?i)(https?://[^/?#@\\\\\\s{}]+)(/\\S*)?");
  private static final Pattern HOLE = Pattern.compile("\\{([a-z]+)}");
  private static final Pattern HEADER =
      Pattern.compile("[A-Za-z0-9!#$%&'*+.^_`|~-]+:[ \\t]*[\\x20-\\x7e]+");
  private static final Pattern POINTER = Pattern.compile("(/(?:[^~/]|~[01])*)*");
  private static final int LONGEST = 2_000;
  private static final int LONGEST_BODY = 10_000;
  private static final int MOST_STATES = 50;

  /** Headers that say where a call goes and how long it is. */
  private static final Set<String> NOT_OURS =
      Set.of("host", "connection", "content-length", "transfer-encoding", "upgrade", "expect");

  /**
   * Where answers hold what: JSON pointers (RFC 6901).
   *
   * @param list of entries in what was found
   * @param entry in what was read or made
   * @param key in an entry, as all that follow
   * @param closedAt when it was closed, in ISO 8601; empty when that is not told
   */
  public record Where(
      String list,
      String entry,
      String key,
      String title,
      String text,
      String state,
      String closedAt) {}

  /** Copies the states. */
  public TrackerSettings {
    Objects.requireNonNull(where);
    closed = List.copyOf(closed);
  }

  /**
   * The same, when it can be worked with.
   *
   * @throws CellarException {@code INVALID_VALUE}
   */
  public TrackerSettings checked() {
    require(!name.isBlank() && name.length() <= 100, "the tracker needs a name");
    url("find", find, Set.of("text", "most"), "text");
    url("read", read, Set.of("key"), "key");
    require(!find.isEmpty() && !read.isEmpty(), "say the URLs find and read");
    url("create", create, Set.of(), null);
    url("comment", comment, Set.of("key"), null);
    url("page", page, Set.of("key"), "key");
    body("createBody", createBody, create, Set.of("title", "text"), "title");
    body("commentBody", commentBody, comment, Set.of("key", "text"), "text");
    for (String one : List.of(read, create, comment)) {
      require(
          one.isEmpty() || origin(one).equals(origin(find)),
          "find, read, create and comment must be of one tracker: the same scheme, host and port");
    }
    require(header.length() <= LONGEST, "the header is too long");
    if (!header.isEmpty()) {
      require(
          HEADER.matcher(header).matches(),
          "the header is not one, like: Authorization: Bearer {secret}");
      String called = header.substring(0, header.indexOf(':')).toLowerCase(Locale.ROOT);
      require(!NOT_OURS.contains(called), "the header " + called + " cannot be set");
      holes("header", header, Set.of("secret"));
    }
    pointer("list", where.list);
    pointer("entry", where.entry);
    pointer("key", where.key);
    pointer("title", where.title);
    pointer("text", where.text);
    pointer("state", where.state);
    pointer("closedAt", where.closedAt);
    require(
        !where.key.isEmpty() && !where.title.isEmpty() && !where.state.isEmpty(),
        "say where an entry holds its key, title and state, like: /fields/summary");
    require(
        create.isEmpty() || !where.text.isEmpty(),
        "say where an entry holds its text: by that we see whether one was made when an answer is"
            + " lost");
    require(
        !closed.isEmpty()
            && closed.size() <= MOST_STATES
            && closed.stream().noneMatch(state -> state.isBlank() || state.length() > 200),
        "say in which states an entry is closed, like: done");
    return this;
  }

  /** The key in what somebody typed: that, or the address of the entry's page. */
  public String keyOf(String typed) {
    int hole = page.indexOf("{key}");
    String before = hole < 0 ? "" : page.substring(0, hole);
    String after = hole < 0 ? "" : page.substring(hole + "{key}".length());
    boolean isPage =
        !before.isEmpty()
            && typed.length() > before.length() + after.length()
            && typed.startsWith(before)
            && typed.endsWith(after);
    return isPage ? typed.substring(before.length(), typed.length() - after.length()) : typed;
  }

  /** Whether an entry in that state is open: in any state that is not told as closed. */
  public boolean isOpen(String state) {
    return closed.stream().noneMatch(one -> one.strip().equalsIgnoreCase(state.strip()));
  }

  public boolean canCreate() {
    return !create.isEmpty();
  }

  public boolean canComment() {
    return !comment.isEmpty();
  }

  /** Scheme, host and port that all calls go to, in small letters; the port as it is written. */
  public String origin() {
    return origin(find);
  }

  private static String origin(String url) {
    Matcher matcher = URL.matcher(url);
    return matcher.matches() ? matcher.group(1).toLowerCase(Locale.ROOT) : "";
  }

  private static void url(
      String what, String url, Set<String> may, @org.jspecify.annotations.Nullable String must) {
    if (url.isEmpty()) {
      return;
    }
    require(url.length() <= LONGEST, "the URL " + what + " is longer than " + LONGEST);
    require(
        URL.matcher(url).matches(),
        "the URL "
            + what
            + " must begin with http:// or https:// and a host, without a user, spaces or holes"
            + " in it");
    holes(what, url, may);
    require(must == null || url.contains("{" + must + "}"), what + " lacks {" + must + "}");
  }

  private static void body(String what, String body, String url, Set<String> may, String must) {
    require(body.isEmpty() == url.isEmpty(), what + " goes with its URL: say both, or neither");
    require(body.length() <= LONGEST_BODY, what + " is longer than " + LONGEST_BODY);
    holes(what, body, may);
    require(body.isEmpty() || body.contains("{" + must + "}"), what + " lacks {" + must + "}");
  }

  private static void holes(String what, String template, Set<String> may) {
    Matcher matcher = HOLE.matcher(template);
    while (matcher.find()) {
      require(
          may.contains(matcher.group(1)),
          what
              + " has {"
              + matcher.group(1)
              + "}; "
              + (may.isEmpty() ? "nothing can stand for a value there" : "there can be " + may));
    }
  }

  private static void pointer(String what, String pointer) {
    require(
        pointer.length() <= LONGEST && POINTER.matcher(pointer).matches(),
        what + " is no JSON pointer (RFC 6901), like: /fields/summary");
  }

  private static void require(boolean holds, String message) {
    if (!holds) {
      throw new CellarException(ProblemCode.INVALID_VALUE, message);
    }
  }
}
