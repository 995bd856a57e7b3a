package org.vinecellar.core.filters;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import java.util.regex.Pattern;
import java.util.stream.Collectors;
import org.vinecellar.core.filters.Tokens.Kind;

/**
 * Reads filters: the grammar of RFC 7644, figure 1, with its order of binding ({@code not} before
 * {@code and} before {@code or}). Beyond it, spaces may stand wherever words may be parted. What
 * names mean is not looked at here.
 */
public final class FilterParser {
  /** Characters of a filter at most. */
  public static final int MAX_LENGTH = 4_000;

  /** Comparisons in a filter at most. */
  public static final int MAX_TERMS = 200;

  /** Filters inside each other at most. */
  public static final int MAX_DEPTH = 30;

  private static final Pattern NAME = Pattern.compile("[A-Za-z][A-Za-z0-9_-]*");
  private static final String OPERATORS =
      Arrays.stream(Operator.values()).map(Operator::word).collect(Collectors.joining(", "))
          + " or pr";

  private final Tokens tokens;
  private int terms;
  private int depth;

  private FilterParser(String text) {
    this.tokens = new Tokens(text);
  }

  /**
   * Reads a filter.
   *
   * @throws FilterException where it cannot be understood
   */
  public static Filter parse(String text) {
    if (text.length() > MAX_LENGTH) {
      throw new FilterException(
          MAX_LENGTH, "a filter has at most " + MAX_LENGTH + " characters; this one goes on");
    }
    FilterParser parser = new FilterParser(text);
    Filter filter = parser.any();
    if (parser.tokens.kind() != Kind.END) {
      throw parser.expected("“and”, “or” or the end");
    }
    return filter;
  }

  /** Writes a filter so that {@link #parse} reads the same again. */
  public static String text(Filter filter) {
    return filter.accept(new FilterText());
  }

  private FilterException expected(String what) {
    return expected(what, "");
  }

  private FilterException expected(String what, String hint) {
    return new FilterException(tokens.at(), tokens.shown() + ", where " + what + " could" + hint);
  }

  private Filter any() {
    List<Filter> filters = new ArrayList<>();
    add(filters, all(), true);
    while (tokens.is("or")) {
      tokens.next();
      add(filters, all(), true);
    }
    return filters.size() == 1 ? filters.get(0) : new Filter.Any(filters);
  }

  private Filter all() {
    List<Filter> filters = new ArrayList<>();
    add(filters, one(), false);
    while (tokens.is("and")) {
      tokens.next();
      add(filters, one(), false);
    }
    return filters.size() == 1 ? filters.get(0) : new Filter.All(filters);
  }

  /** Groups that change nothing are not kept. */
  private static void add(List<Filter> filters, Filter one, boolean any) {
    if (any && one instanceof Filter.Any inner) {
      filters.addAll(inner.of());
    } else if (!any && one instanceof Filter.All inner) {
      filters.addAll(inner.of());
    } else {
      filters.add(one);
    }
  }

  private Filter one() {
    if (tokens.kind() == Kind.OPEN) {
      return inside(Kind.CLOSE, "“)”");
    }
    if (tokens.is("not")) {
      tokens.next();
      if (tokens.kind() != Kind.OPEN) {
        throw expected("“(”: what is denied stands in parentheses, as in not (…),");
      }
      return new Filter.Not(inside(Kind.CLOSE, "“)”"));
    }
    Filter.Path path = path();
    if (tokens.kind() == Kind.INNER_OPEN) {
      return new Filter.Within(path, inside(Kind.INNER_CLOSE, "“]”"));
    }
    if (++terms > MAX_TERMS) {
      throw new FilterException(path.at(), "a filter has at most " + MAX_TERMS + " comparisons");
    }
    return comparison(path);
  }

  private Filter inside(Kind end, String sign) {
    if (++depth > MAX_DEPTH) {
      throw new FilterException(
          tokens.at(), "filters stand at most " + MAX_DEPTH + " deep inside each other");
    }
    tokens.next();
    Filter filter = any();
    if (tokens.kind() != end) {
      throw expected("“and”, “or” or " + sign);
    }
    tokens.next();
    depth--;
    return filter;
  }

  private Filter comparison(Filter.Path path) {
    if (tokens.is("pr")) {
      tokens.next();
      return new Filter.Present(path);
    }
    Operator operator = null;
    for (Operator one : Operator.values()) {
      operator = tokens.is(one.word()) ? one : operator;
    }
    if (operator == null) {
      throw expected(OPERATORS, Nearest.hint(tokens.value(), words()));
    }
    int operatorAt = tokens.at();
    tokens.next();
    int valueAt = tokens.at();
    return new Filter.Compared(path, operator, value(), new Filter.Marks(operatorAt, valueAt));
  }

  private static List<String> words() {
    List<String> words = new ArrayList<>(List.of("pr"));
    Arrays.stream(Operator.values()).map(Operator::word).forEach(words::add);
    return words;
  }

  private Filter.Value value() {
    Filter.Value value =
        switch (tokens.kind()) {
          case TEXT -> new Filter.Text(tokens.value());
          case NUMBER -> new Filter.Number(new BigDecimal(tokens.value()));
          case WORD -> word();
          case OPEN, CLOSE, INNER_OPEN, INNER_CLOSE, END -> throw noValue();
        };
    tokens.next();
    return value;
  }

  private Filter.Value word() {
    return switch (tokens.value().toLowerCase(Locale.ROOT)) {
      case "true" -> new Filter.Bool(true);
      case "false" -> new Filter.Bool(false);
      case "null" -> new Filter.Nothing();
      default -> throw noValue();
    };
  }

  private FilterException noValue() {
    return expected("a text in quotes, a number, true, false or null");
  }

  /** A name, perhaps with a URI before it and a part after a dot. */
  private Filter.Path path() {
    if (tokens.kind() != Kind.WORD) {
      throw expected("a name, “not” or “(”");
    }
    int at = tokens.at();
    String text = tokens.value();
    int colon = text.lastIndexOf(':');
    String schema = colon < 0 ? null : text.substring(0, colon);
    String local = text.substring(colon + 1);
    int dot = local.indexOf('.');
    String name = dot < 0 ? local : local.substring(0, dot);
    String sub = dot < 0 ? null : local.substring(dot + 1);
    if (!NAME.matcher(name).matches() || (sub != null && !NAME.matcher(sub).matches())) {
      throw new FilterException(
          at,
          "“"
              + (text.length() > 40 ? text.substring(0, 40) + "…" : text)
              + "” is no name: names have letters, digits, “-” and “_”, and at most one dot");
    }
    if (schema != null && !schema.matches("[A-Za-z][A-Za-z0-9+.-]*:.+")) {
      throw new FilterException(at, "“" + schema + "” before the colon is no URI");
    }
    tokens.next();
    return new Filter.Path(schema, name, sub, at);
  }
}
