package org.vinecellar.core.filters;

import java.util.ArrayDeque;
import java.util.Deque;
import java.util.Locale;
import java.util.function.Function;

/** Puts saved filters in the places where a filter names them. Of one reading. */
final class Saved {
  private final SavedNames names;
  private final Deque<String> open = new ArrayDeque<>();
  private int terms;

  Saved(SavedNames names) {
    this.names = names;
  }

  /** Whether a name in a filter means a saved one. */
  static boolean isMeant(Filter.Path path) {
    String word = path.name().toLowerCase(Locale.ROOT);
    return path.schema() == null
        && path.sub() == null
        && (word.equals(SavedNames.SHARED) || word.equals(SavedNames.MINE));
  }

  /**
   * What the named filter asks.
   *
   * @param thing of which it is asked
   * @param inside reads it
   * @throws FilterException at the place of the name
   */
  Criterion read(Filter.Compared filter, Thing thing, Function<Filter, Criterion> inside) {
    String word = filter.path().name().toLowerCase(Locale.ROOT);
    if (filter.operator() != Operator.EQ && filter.operator() != Operator.NE) {
      throw new FilterException(
          filter.marks().operator(),
          "a saved filter is named by eq, or by ne where it does not fit");
    }
    if (!(filter.value() instanceof Filter.Text name)) {
      throw new FilterException(
          filter.marks().value(), "the name of a saved filter stands in quotes");
    }
    int at = filter.marks().value();
    SavedFilter found =
        word.equals(SavedNames.SHARED) ? names.shared(name.value()) : names.mine(name.value());
    if (found == null) {
      throw new FilterException(at, names.whyNot(word, name.value()));
    }
    if (found.of() != thing) {
      throw new FilterException(at, ofAnother(found, word, thing));
    }
    String opened = word + " " + name.value();
    if (open.contains(opened)) {
      throw new FilterException(at, "“" + name.value() + "” names itself, by way of others or not");
    }
    open.push(opened);
    try {
      Filter tree = FilterParser.parse(found.text());
      terms += (int) tree.comparisons().count();
      if (terms > FilterParser.MAX_TERMS || open.size() > FilterParser.MAX_DEPTH) {
        throw new FilterException(
            at,
            "a filter has at most "
                + FilterParser.MAX_TERMS
                + " comparisons, with those of the saved filters that it names");
      }
      Criterion inner = inside.apply(tree);
      return filter.operator() == Operator.NE ? new Criterion.Not(inner) : inner;
    } catch (FilterException e) {
      // Where it is in what somebody else wrote helps nobody.
      throw open.size() > 1 ? e : new FilterException(at, "in “" + name.value() + "”: " + e.said());
    } finally {
      String unused = open.pop();
    }
  }

  private static String ofAnother(SavedFilter found, String word, Thing thing) {
    Relation way = null;
    for (Relation one : thing.relations()) {
      way = one.to() == found.of() ? one : way;
    }
    return "“"
        + found.name()
        + "” is a filter of "
        + found.of().word()
        + "s, not of "
        + thing.word()
        + "s"
        + (way == null
            ? ""
            : "; ask " + way.word() + "[" + word + " eq " + JsonText.quoted(found.name()) + "]");
  }
}
