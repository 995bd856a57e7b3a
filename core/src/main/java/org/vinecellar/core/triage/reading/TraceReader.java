package org.vinecellar.core.triage.reading;

import java.util.ArrayList;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.results.Failure;

/**
 * Reads the text of a failure once, from its first line to its last, into a {@link Chain}. Where
 * the root of a chain stands differs by runtime: {@link Link} tells by what stands between two
 * errors.
 *
 * <p>What is kept is bounded; what is read is not, since the root often stands last.
 */
public final class TraceReader {
  private static final int MAX_ERRORS = 60;
  private static final int MAX_TEXT = 24_000;

  /** In so many lines that nobody knows a stack would have shown. */
  private static final int MAX_SHAPES = 10_000;

  private static final Pattern DEF = Pattern.compile("^\\s+(?:async )?def (\\w{1,100})\\(.*");
  private static final Pattern RUST_AT =
      Pattern.compile(
          "^thread '[^']{0,200}'(?: \\(\\d+\\))? panicked at (?:.*, )?(\\S{1,300}?\\.rs):(\\d+):\\d+:?$");
  private static final Pattern GTEST =
      Pattern.compile(
          "^(\\S{1,300}\\.\\w{1,4})[:(](\\d+)\\)?: (?:Failure|error|ERROR|FAILED|FAIL)\\b:?\\s*(.*)$");

  /** How .NET's runners say that frames of an inner error follow. */
  private static final Pattern INNER_FRAMES =
      Pattern.compile("(?m)^(?:-{3,5} Inner Stack Trace|--[\\w.]+Exception$)");

  /** Where an error of Perl came up. */
  private static final Pattern PERL_AT =
      Pattern.compile(" at (\\S{1,300}\\.(?:p[lm]|t)) line \\d+\\.?$");

  private static final Pattern SWIFT_AT =
      Pattern.compile(
          "^(?:(\\S{1,300}\\.swift):\\d+: )?Fatal error(?:: .*?)?(?:: file (\\S{1,300}\\.swift), line \\d+)?$");

  private static final Pattern TIMED_OUT = Pattern.compile("Time(?:d)?[Oo]ut");

  private static final Pattern INTERRUPTED = Pattern.compile("^[\\w.]*InterruptedException\\b");

  /** Where a place began that was cut. */
  private static final Pattern HALF_A_PLACE =
      Pattern.compile("^at [\\w$.<>/]{3,200}(?:\\([^)]*)?$");

  private static final Pattern CALLS =
      Pattern.compile(
          "(?i)(?:context\\.{3}|(?:back|call|stack)[ -]?(?:trace|stack|chain)(?:\\.{3})?|called by|callers?):");

  /** The name of a function, and nothing else. */
  private static final Pattern CALL =
      Pattern.compile("[a-z_][a-z0-9_]*(?:[-.:/][a-z_][a-z0-9_]*[!?]?){0,6}[!?]?");

  private static final Pattern PHP_IN = Pattern.compile("^(.*) in (/\\S{1,300}\\.php):(\\d+)$");

  private final List<Building> errors = new ArrayList<>();
  private final List<Building> beside = new ArrayList<>();
  private final StringBuilder text = new StringBuilder();
  private @Nullable Building current;
  private @Nullable String definition;
  private final List<Frame> early = new ArrayList<>();
  private boolean earlyReversed;
  private @Nullable Link link;

  /** Whether all that was read is the message, and the trace begins. */
  private boolean titled;

  /** Whether lines below a heading say who called whom, by name alone. */
  private boolean calls;

  /** Whether a trace of Python has begun, whose error comes below. */
  private boolean trace;

  /** Where the last frame of PHP says that it was called; null outside of a trace of PHP. */
  private @Nullable String calledFrom;

  private int depth;
  private int suppressedIndent = -1;

  /** Whether the first failure of several has been read. */
  private boolean suppressedRead;

  private boolean output;
  private boolean isBeside;

  /** Whether the text shows source between the places, and marks what went wrong with an E. */
  private boolean pytest;

  /** Whether the failures of one test are told of by number. */
  private boolean several;

  /** Whether frames of the outermost error come before those of the inner ones. */
  private boolean outerFirst;

  /** Whether source stands below the places, further in than they. */
  private boolean sourceFollows;

  /** What the line above may be, where it is no place for certain. */
  private @Nullable PlaceShape above;

  private int shapes;

  private final SourceLines source = new SourceLines();
  private final PlaceMemo.Walk places;

  private TraceReader(PlaceMemo places) {
    this.places = places.new Walk();
  }

  /**
   * Reads a failure.
   *
   * @param places what was read before of the same run
   */
  public static Chain read(Failure failure, PlaceMemo places) {
    TraceReader reader = new TraceReader(places);
    String message = failure.message() == null ? "" : CleanText.of(failure.message());
    String trace = failure.trace() == null ? "" : CleanText.of(failure.trace());
    if (!message.isBlank() && !repeats(trace, message)) {
      reader.lines(message);
      reader.output = false;
      reader.suppressedIndent = -1;
      reader.titled = true;
    }
    reader.outerFirst = trace.contains("--") && INNER_FRAMES.matcher(trace).find();
    reader.lines(trace);
    return reader.done(failure.type() == null ? "" : CleanText.of(failure.type()).strip());
  }

  /** Whether the trace says the message too. */
  private static boolean repeats(String trace, String message) {
    String start = message.strip();
    int end = start.indexOf('\n');
    start = end > 0 ? start.substring(0, end) : start;
    start = start.length() > 80 ? start.substring(0, 80) : start;
    start = start.strip();
    return start.length() > 2
        && (trace.contains(start)
            || letters(trace).contains(letters(start)) && letters(start).length() > 8);
  }

  /** What the same message in two places has in common, however numbers and ids were printed. */
  private static String letters(String text) {
    StringBuilder out = new StringBuilder(Math.min(text.length(), MAX_TEXT));
    for (int i = 0; i < text.length() && i < MAX_TEXT; i++) {
      char c = text.charAt(i);
      if (Character.isLetter(c)) {
        out.append(c);
      }
    }
    return out.toString();
  }

  private void lines(String all) {
    pytest = all.startsWith("E   ") || all.indexOf(".py:") >= 0 && all.contains("\nE  ");
    boolean grouped = all.contains("Exception Group Traceback");
    char[] chars = all.toCharArray();
    int from = 0;
    int length = chars.length;
    while (from < length) {
      int end = all.indexOf('\n', from);
      end = end < 0 ? length : end;
      int next = end + 1;
      if (!grouped && known(chars, from, end)) {
        from = next;
        continue;
      }
      String line = all.substring(from, end);
      line = BareLine.unled(grouped ? BareLine.ungrouped(line) : line);
      from = line(line, all, next) && next < length ? nextLine(all, next) : next;
    }
  }

  /** Whether it is a place that was read before. */
  private boolean known(char[] all, int from, int end) {
    FrameReader.Read known = suppressedIndent < 0 && !output ? places.known(all, from, end) : null;
    if (known != null) {
      int start = from;
      while (all[start] <= ' ') {
        start++;
      }
      frame(known.frame(), all[start] == 'F');
    }
    return known != null;
  }

  private static int nextLine(String all, int from) {
    int end = all.indexOf('\n', from);
    return end < 0 ? all.length() : end + 1;
  }

  /**
   * @return whether the line after it belongs to it
   */
  private boolean line(String line, String all, int next) {
    String stripped = line.strip();
    String plain = BareLine.unmarked(BareLine.uncut(stripped));
    boolean cut = plain.length() != stripped.length();
    boolean remark = plain.startsWith("# ") && !plain.startsWith("# -") || plain.startsWith("#\t");
    if (remark && plain.length() > 2) {
      // RSpec writes a cause so, TAP what it remarks.
      plain = plain.substring(2).strip();
    }
    if (plain.isEmpty()) {
      return false;
    }
    int indent = line.length() - line.stripLeading().length();
    Link found = Link.read(plain);
    if (suppressedIndent >= 0) {
      boolean ends = found != null && found.kind() == Link.Kind.INNER && indent < suppressedIndent;
      if (!ends) {
        return false;
      }
      suppressedIndent = -1;
    }
    if (output && found == null) {
      return false;
    }
    if (found != null) {
      return linked(found, indent);
    }
    if (sourceFollows && indent >= 4 && !plain.startsWith("File \"")) {
      source.below(plain);
      return false;
    }
    sourceFollows = false;
    if (plain.length() < 300 && isPointedAt(all, next)) {
      source.below(plain);
      return false;
    }
    if (several && plain.startsWith("2) ")) {
      // What failed after the first is often its consequence.
      output = true;
      return false;
    }
    several |= plain.equals("Several failures occurred:");
    if (plain.equals("Traceback (most recent call last):")) {
      trace = true;
      return false;
    }
    boolean place = plain.startsWith("at ") || plain.startsWith("File \"");
    if (!place && Evidence.isNone(plain)) {
      source.pointed(plain);
      return false;
    }
    calls = calls && indent > 0 || plain.endsWith(":") && CALLS.matcher(plain).matches();
    if (calls && indent > 0 && CALL.matcher(plain).matches()) {
      frame(Frame.of(plain, "", 0), false);
      return false;
    }
    boolean marked = line.length() > plain.length() + indent && line.stripLeading().startsWith("#");
    FrameReader.Read read =
        places.read(marked || cut ? plain : line, place ? null : after(all, next));
    if (read != null && read.frame().function().equals("{main}")) {
      // Where PHP begins.
      return false;
    }
    if (read != null) {
      if (pytest && plain.contains(".py:") && plain.contains(": in ")) {
        source.further();
      }
      headAtPlace(plain);
      boolean php = plain.charAt(0) == '#' && read.frame().path().endsWith(".php");
      if (php && calledFrom == null && current != null && current.isPlaceAlone()) {
        // Where it was thrown, of which the next line tells what it is.
        calledFrom = current.frames.get(0).path();
        current.frames.clear();
      }
      boolean shifts = php || plain.indexOf(" called at ") > 0;
      boolean unplaced = calledFrom == null && plain.indexOf(", called at ") > 0;
      Frame placed = shifts ? shifted(read.frame()) : read.frame();
      if (!unplaced) {
        frame(placed, plain.startsWith("File \""));
      }
      if (shifts && !php && current != null) {
        // From there the outermost was called.
        current.place = Frame.of("", read.frame().path(), read.frame().line());
      }
      return read.two();
    }
    PlaceShape shape = shapes < MAX_SHAPES ? PlaceShape.of(plain) : null;
    shapes++;
    boolean like = shape != null && (shape.isLike(above) || shape.isLike(below(all, next)));
    above = shape;
    if (shape != null && like) {
      frame(shape.frame(), false);
      return false;
    }
    words(line, plain);
    return false;
  }

  /** What the line after it may be. */
  private static @Nullable PlaceShape below(String all, int next) {
    String line = after(all, next);
    return line == null ? null : PlaceShape.of(BareLine.unmarked(line.strip()));
  }

  /** Whether the line after it does nothing but point at something in it: it is source. */
  private static boolean isPointedAt(String all, int next) {
    boolean points = false;
    for (int i = next; i < all.length() && all.charAt(i) != '\n'; i++) {
      char c = all.charAt(i);
      if (c == '^') {
        points = true;
      } else if (c != ' ' && c != '\t' && c != '~' && c != '\r') {
        return false;
      }
    }
    return points;
  }

  /** The line after one, where there is one, for places that take two lines. */
  private static @Nullable String after(String all, int next) {
    if (next >= all.length()) {
      return null;
    }
    int end = all.indexOf('\n', next);
    return BareLine.uncut(
        all.substring(next, Math.min(end < 0 ? all.length() : end, next + FrameReader.MAX_LINE)));
  }

  /**
   * PHP, Perl and Haskell tell what was called, and from where: the place of a call is that of the
   * frame before.
   */
  private Frame shifted(Frame read) {
    String path = calledFrom == null ? read.path() : calledFrom;
    calledFrom = read.path();
    return Frame.of(read.qualified(), path, read.line());
  }

  private boolean linked(Link found, int indent) {
    switch (found.kind()) {
      case SUPPRESSED -> {
        if (current != null && !suppressedRead && current.type.contains("MultipleFailures")) {
          // The first of several checks, with its places.
          suppressedRead = true;
          link = new Link(Link.Kind.INNER, found.rest(), false);
          words(found.rest(), found.rest().strip());
        } else if (current != null
            && TIMED_OUT.matcher(current.type).find()
            && INTERRUPTED.matcher(found.rest()).find()) {
          // Where it waited when its time was over.
          link = new Link(Link.Kind.INNER, found.rest(), false);
          words(found.rest(), found.rest().strip());
        } else {
          suppressedIndent = Math.max(1, indent);
        }
      }
      case OUTPUT -> output = true;
      case SECTION -> {
        if (!found.always() && current != null && current.frames.isEmpty() && beside.isEmpty()) {
          // The first goroutine is the one that ended.
          return false;
        }
        isBeside =
            current != null && (!current.frames.isEmpty() || !beside.isEmpty() || found.always());
        text(found.rest());
        open(new Building(found.rest(), "", 0));
      }
      case FRAMES_OF_OUTER -> depth = Math.max(0, depth - 1);
      case FRAMES_OF_INNER -> {
        outerFirst = false;
        backTo(found.rest());
      }
      default -> {
        output = false;
        link = found;
        if (!found.rest().isBlank()) {
          words(found.rest(), found.rest().strip());
        }
      }
    }
    if (found.kind() == Link.Kind.FRAMES_OF_OUTER && current != null && current.depth > 0) {
      Building outer =
          errors.stream().filter(e -> e.depth == current.depth - 1).findFirst().orElse(null);
      current = outer == null ? current : outer;
    }
    return false;
  }

  /**
   * Frames follow of an error that was told of before: the one of that name, or the next inner one.
   */
  private void backTo(String type) {
    Building inner = null;
    for (Building error : errors) {
      boolean named = !type.isBlank() && error.type.endsWith(type);
      boolean next = type.isBlank() && current != null && error.depth > current.depth;
      if ((named || next) && error.frames.isEmpty()) {
        inner = error;
        break;
      }
    }
    if (inner != null) {
      current = inner;
    }
  }

  /** A line that is a place and begins an error too, as Ruby, Rust and compilers write it. */
  private void headAtPlace(String plain) {
    if (plain.contains(".rb:") && plain.endsWith(")")) {
      Head head = Head.read(plain);
      if (head != null) {
        begin(head);
      }
    }
  }

  private void frame(Frame frame, boolean file) {
    if (frame.function().equals("panic")
        && frame.path().contains("runtime/panic.go")
        && current != null) {
      // What stands above is what ran while the panic was under way.
      current.frames.clear();
      return;
    }
    boolean python = file || pytest || trace;
    boolean anew = python && (titled || trace) && current != null && current.frames.isEmpty();
    sourceFollows = file;
    Frame named = frame;
    if (python && frame.function().isEmpty() && definition != null) {
      named = Frame.of(definition, frame.path(), frame.line());
    }
    definition = null;
    if (current == null || (python && link != null) || anew) {
      if (early.size() >= Building.MAX_FRAMES) {
        early.remove(0);
      }
      early.add(named);
      earlyReversed |= python || frame.path().endsWith(".nim");
      return;
    }
    if (outerFirst && errors.contains(current)) {
      current = errors.get(0);
    }
    boolean outermostFirst = python || frame.path().endsWith(".R") || frame.path().endsWith(".nim");
    current.outermostFirst |= outermostFirst && current.frames.isEmpty();
    current.frame(named);
  }

  private void words(String line, String plain) {
    Matcher def = line.startsWith(" ") ? DEF.matcher(line) : null;
    if (def != null && def.matches()) {
      definition = def.group(1);
      return;
    }
    boolean marked = pytest && (line.startsWith("E  ") || plain.equals("E"));
    if (pytest && !marked) {
      source.ofPytest(plain);
      return;
    }
    String told = marked ? plain.substring(1).strip() : plain;
    String said = BareLine.unmet(BareLine.untried(told));
    String label = source.label(line);
    if (!label.isEmpty()) {
      text(label);
      if (current != null) {
        current.say(label);
      }
      return;
    }
    if (source.isOne(line) || said.startsWith("at ") && HALF_A_PLACE.matcher(said).matches()) {
      return;
    }
    source.said(said);
    Matcher compiler =
        said.contains("ailure")
                || said.contains("error")
                || said.contains("ERROR")
                || said.contains("FAIL")
            ? GTEST.matcher(said)
            : null;
    if (compiler != null && compiler.matches()) {
      if (current == null) {
        open(new Building("", compiler.group(3), 0));
        text(compiler.group(3));
      }
      if (current != null) {
        current.frame(
            Frame.of(
                "",
                compiler.group(1),
                Integer.parseInt(compiler.group(2).length() > 8 ? "0" : compiler.group(2))));
      }
      return;
    }
    Head head = Head.read(said);
    boolean again = link == null && current != null && head != null && same(head, current);
    if (again && current != null && !early.isEmpty()) {
      // What the message told of, with its places.
      placed(current);
    }
    boolean apart =
        link != null
            || current == null
            || !current.frames.isEmpty()
            || current.type.isEmpty()
            || !early.isEmpty();
    if (head != null && !again && (apart || Link.startsError(said))) {
      text(said);
      begin(head);
      Matcher rust = said.contains("panicked at") ? RUST_AT.matcher(said) : null;
      if (rust != null && rust.matches() && current != null) {
        current.place = Frame.of("", rust.group(1), 0);
      }
      Matcher swift = said.contains(".swift") ? SWIFT_AT.matcher(said) : null;
      if (swift != null && swift.matches() && current != null) {
        String path = swift.group(1) == null ? swift.group(2) : swift.group(1);
        // The standard library tells where it found it out.
        current.place = path == null || path.startsWith("Swift/") ? null : Frame.of("", path, 0);
      }
      return;
    }
    text(said);
    if (link != null || current == null) {
      begin(new Head("", said));
    } else if (!again && (current.isOpen() || marked)) {
      current.say(said);
      typed(said);
    }
  }

  /** A title is often said again with the error that was thrown. */
  private void typed(String said) {
    if (current == null || !current.type.isEmpty() || !current.frames.isEmpty() || isBeside) {
      return;
    }
    Head quoted = new Head("", said).inline();
    if (quoted != null && quoted.type().indexOf('.') > 0) {
      depth++;
      open(new Building(quoted.type(), quoted.message(), depth));
    }
  }

  private static boolean same(Head head, Building current) {
    return head.type().equals(current.type)
        && (head.message().isEmpty()
            || current.message.indexOf(head.message()) >= 0
            || current.message.length() == 0);
  }

  /** An error begins: below the last one, around it, or apart from it. */
  private void begin(Head head) {
    Link how = link;
    link = null;
    if (how == null && current != null && !(current.type.isEmpty() && current.frames.isEmpty())) {
      // What the message says is mostly around that which the trace begins with.
      boolean around = (titled || trace) && errors.stream().allMatch(e -> e.frames.isEmpty());
      isBeside = !errors.isEmpty() && !isLoose() && !around;
      depth += around && !isLoose() ? 1 : 0;
    }
    titled = false;
    trace = false;
    if (how != null) {
      isBeside = false;
      depth += how.kind() == Link.Kind.OUTER ? -1 : 1;
    }
    String message = head.message();
    Matcher php =
        message.endsWith("php") || message.indexOf(".php:") < 0 ? null : PHP_IN.matcher(message);
    Frame place = null;
    if (php != null && php.matches()) {
      message = php.group(1);
      place = Frame.of("", php.group(2), 0);
    }
    Matcher perl = message.contains(" at ") ? PERL_AT.matcher(message) : null;
    // Several errors in one line: from the outermost in.
    Head whole = new Head(head.type(), message);
    String[] inner = message.indexOf(" ---> ") > 0 ? message.split(" -{3}> ") : new String[0];
    if (inner.length > 1) {
      open(new Building(head.type(), inner[0], depth));
      for (int i = 1; i < inner.length && i < 20; i++) {
        Head next = Head.read(inner[i]);
        depth++;
        open(
            next == null
                ? new Building("", inner[i], depth)
                : new Building(next.type(), next.message(), depth));
      }
      return;
    }
    Head quoted = whole.inline();
    open(new Building(head.type(), message, depth));
    if (quoted != null && !isBeside) {
      depth++;
      open(new Building(quoted.type(), quoted.message(), depth));
    }
    if (place != null && current != null) {
      current.place = place;
    }
    calledFrom = place != null ? place.path() : perl != null && perl.find() ? perl.group(1) : null;
  }

  /** Whether all that came so far is text without a type and without places. */
  private boolean isLoose() {
    return errors.stream().allMatch(e -> e.type.isEmpty() && e.frames.isEmpty());
  }

  private void open(Building error) {
    if (isBeside) {
      if (beside.size() < MAX_ERRORS) {
        beside.add(error);
      }
    } else if (errors.size() < MAX_ERRORS) {
      errors.add(error);
    } else {
      // The first and the last ones are those that tell.
      errors.set(MAX_ERRORS - 1, error);
    }
    current = error;
    if (!early.isEmpty()) {
      placed(error);
    }
  }

  /** The places that came before the error are its own. */
  private void placed(Building error) {
    error.outermostFirst = earlyReversed;
    if (early.size() == 1 && !earlyReversed && early.get(0).function().isEmpty()) {
      error.place = early.get(0);
    } else {
      early.forEach(error::frame);
      error.before = earlyReversed ? 0 : error.frames.size();
    }
    early.clear();
    earlyReversed = false;
  }

  private void text(String line) {
    if (text.length() < MAX_TEXT) {
      text.append(line, 0, Math.min(line.length(), 4_000)).append('\n');
    }
  }

  /** Where no line is a place, a sentence may name one. */
  private void withinText() {
    int from = 0;
    for (int i = 0; i < 100 && from < text.length(); i++) {
      int end = text.indexOf("\n", from);
      Frame frame = FrameReader.within(text.substring(from, end));
      if (frame != null && !errors.isEmpty()) {
        errors.get(errors.size() - 1).place = frame;
        return;
      }
      from = end + 1;
    }
  }

  private Chain done(String type) {
    if (current == null || (!early.isEmpty() && errors.isEmpty())) {
      isBeside = false;
      open(new Building("", "", 0));
    } else if (!early.isEmpty()) {
      early.forEach(errors.get(errors.size() - 1)::frame);
    }
    if (errors.stream().allMatch(e -> e.frames.isEmpty() && e.place == null)) {
      withinText();
    }
    List<Building> ordered = new ArrayList<>(errors.isEmpty() ? beside : errors);
    ordered.sort((a, b) -> Integer.compare(a.depth, b.depth));
    List<Thrown> chain = new ArrayList<>();
    for (Building error : ordered) {
      Thrown done = error.done();
      boolean untyped = chain.isEmpty() && done.type().isEmpty() && !type.isEmpty();
      chain.add(untyped ? new Thrown(type, done.message(), done.frames()) : done);
    }
    List<Thrown> others = new ArrayList<>();
    (errors.isEmpty() ? List.<Building>of() : beside).forEach(error -> others.add(error.done()));
    return new Chain(chain, others, source.check(), text.toString());
  }
}
