package org.vinecellar.core.filters;

import java.time.Instant;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/** Looks the names of a filter up in the catalogue and reads its values by their kinds. */
public final class Resolver implements Filter.Visitor<Criterion> {
  private final Thing thing;
  private final Instant now;
  private final Saved saved;

  private Resolver(Thing thing, Instant now, Saved saved) {
    this.thing = thing;
    this.now = now;
    this.saved = saved;
  }

  /**
   * What a text asks of a thing, where no saved filters can be named.
   *
   * @param text null or blank for everything
   * @param now from which durations count back
   * @throws FilterException where it cannot be understood
   */
  public static Criterion read(@Nullable String text, Thing thing, Instant now) {
    return read(text, thing, now, SavedNames.NONE);
  }

  /**
   * What a text asks of a thing.
   *
   * @param text null or blank for everything
   * @param now from which durations count back
   * @param names saved filters that it may name
   * @throws FilterException where it cannot be understood
   */
  public static Criterion read(@Nullable String text, Thing thing, Instant now, SavedNames names) {
    return text == null || text.isBlank()
        ? Criterion.EVERYTHING
        : FilterParser.parse(text).accept(new Resolver(thing, now, new Saved(names)));
  }

  @Override
  public Criterion all(Filter.All filter) {
    return new Criterion.All(each(filter.of()));
  }

  @Override
  public Criterion any(Filter.Any filter) {
    return new Criterion.Any(each(filter.of()));
  }

  private List<Criterion> each(List<Filter> filters) {
    return filters.stream().map(one -> one.accept(this)).toList();
  }

  @Override
  public Criterion not(Filter.Not filter) {
    return new Criterion.Not(filter.of().accept(this));
  }

  @Override
  public Criterion within(Filter.Within filter) {
    Filter.Path path = filter.path();
    Relation relation = relation(path.name());
    String sub = path.sub();
    if (relation == null || path.schema() != null) {
      if (sub == null && attribute(path.name()) != null) {
        throw new FilterException(
            path.at(),
            "“" + path.text() + "” has nothing inside it to ask about; " + writeRelations());
      }
      throw unknown(path);
    }
    if (sub == null) {
      return inside(relation, filter);
    }
    Relation inner = findRelation(relation.to(), sub);
    if (inner == null) {
      throw new FilterException(
          path.at() + path.name().length() + 1,
          "a " + relation.to().word() + " has no “" + sub + "” to ask in brackets");
    }
    return new Criterion.Within(relation, inside(inner, filter));
  }

  private Criterion inside(Relation relation, Filter.Within filter) {
    return new Criterion.Within(
        relation, filter.filter().accept(new Resolver(relation.to(), now, saved)));
  }

  private String writeRelations() {
    List<String> words = thing.relations().stream().map(Relation::word).toList();
    return words.isEmpty()
        ? "a " + thing.word() + " has nothing that is asked in brackets"
        : "in brackets are asked: " + String.join(", ", words);
  }

  @Override
  public Criterion present(Filter.Present filter) {
    Filter.Path path = filter.path();
    if (Saved.isMeant(path)) {
      throw new FilterException(
          path.at(), "“" + path.name() + "” needs a name, as in " + path.name() + " eq \"Nights\"");
    }
    Relation relation = path.sub() == null ? relation(path.name()) : null;
    if (relation != null && attribute(path.name()) == null) {
      return new Criterion.Within(relation, Criterion.EVERYTHING);
    }
    return asked(path, (attribute, key) -> new Criterion.Present(attribute, key));
  }

  @Override
  public Criterion compared(Filter.Compared filter) {
    if (Saved.isMeant(filter.path())) {
      return saved.read(filter, thing, inner -> inner.accept(new Resolver(thing, now, saved)));
    }
    return asked(filter.path(), (attribute, key) -> compared(filter, attribute, key));
  }

  /** Makes a criterion of an attribute that was found. */
  private interface Asking {
    Criterion of(Attribute attribute, @Nullable String key);
  }

  private Criterion asked(Filter.Path path, Asking asking) {
    String sub = path.sub();
    if (path.schema() == null) {
      Attribute attribute = attribute(path.name());
      if (attribute != null && (sub == null || attribute.isKeyed())) {
        return asking.of(attribute, sub);
      }
      Relation relation = sub == null ? null : relation(path.name());
      Attribute inner = relation == null ? null : find(relation.to(), path.sub());
      if (relation != null && inner != null) {
        return new Criterion.Within(relation, asking.of(inner, null));
      }
    }
    throw unknown(path);
  }

  private Criterion compared(Filter.Compared filter, Attribute attribute, @Nullable String key) {
    if (filter.value() instanceof Filter.Nothing) {
      return nothing(filter, attribute, key);
    }
    if (attribute.isKeyed() && key == null) {
      throw new FilterException(
          filter.path().at(),
          "“"
              + attribute.word()
              + "” needs a key after a dot, as in "
              + attribute.word()
              + ".team eq \"fares\"");
    }
    Operator operator = filter.operator();
    if (!attribute.kind().operators().contains(operator)) {
      throw new FilterException(
          filter.marks().operator(),
          "“"
              + operator.word()
              + "” does not go with “"
              + attribute.word()
              + "”, which is a "
              + attribute.kind().word()
              + "; "
              + String.join(", ", operatorsOf(attribute))
              + " could");
    }
    Criterion.Operand operand =
        new Operands(attribute, filter.marks().value(), now).of(filter.value());
    return operator == Operator.NE
        ? new Criterion.Not(new Criterion.Compares(attribute, key, Operator.EQ, operand))
        : new Criterion.Compares(attribute, key, operator, operand);
  }

  /** Equal to nothing is what has no value. */
  private static Criterion nothing(
      Filter.Compared filter, Attribute attribute, @Nullable String key) {
    Criterion present = new Criterion.Present(attribute, key);
    return switch (filter.operator()) {
      case EQ -> new Criterion.Not(present);
      case NE -> present;
      default ->
          throw new FilterException(
              filter.marks().operator(),
              "nothing is compared with null but by eq and ne; “pr” asks whether there is a value");
    };
  }

  /** The words of what an attribute can be asked, in the order of the operators. */
  static List<String> operatorsOf(Attribute attribute) {
    List<String> words = new ArrayList<>();
    for (Operator operator : Operator.values()) {
      if (attribute.kind().operators().contains(operator)) {
        words.add(operator.word());
      }
    }
    words.add("pr");
    return words;
  }

  private FilterException unknown(Filter.Path path) {
    Relation relation = path.sub() == null ? null : relation(path.name());
    Attribute attribute = attribute(path.name());
    if (path.schema() != null) {
      return new FilterException(path.at(), "names stand here without a URI before them");
    }
    if (relation != null) {
      int at = path.at() + path.name().length() + 1;
      return notOne(at, String.valueOf(path.sub()), relation.to());
    }
    if (attribute != null) {
      return new FilterException(path.at(), "“" + attribute.word() + "” has no parts after a dot");
    }
    return notOne(path.at(), path.name(), thing);
  }

  private static FilterException notOne(int at, String name, Thing thing) {
    Relation relation = findRelation(thing, name);
    if (relation != null) {
      return new FilterException(
          at,
          "“"
              + relation.word()
              + "” is nothing to compare; ask in brackets: "
              + relation.word()
              + "[…]");
    }
    List<String> words = words(thing);
    String hint = Nearest.hint(name, words);
    return new FilterException(
        at,
        "a "
            + thing.word()
            + " has no “"
            + name
            + "”"
            + (hint.isEmpty() ? "; it has " + String.join(", ", words) : hint));
  }

  /** All names of a thing. */
  static List<String> words(Thing thing) {
    List<String> words = new ArrayList<>(thing.attributes().stream().map(Attribute::word).toList());
    thing.relations().stream()
        .map(Relation::word)
        .filter(word -> !words.contains(word))
        .forEach(words::add);
    return words;
  }

  private @Nullable Attribute attribute(String name) {
    return find(thing, name);
  }

  static @Nullable Attribute find(Thing thing, @Nullable String name) {
    return thing.attributes().stream()
        .filter(one -> same(one.word(), name))
        .findFirst()
        .orElse(null);
  }

  private @Nullable Relation relation(String name) {
    return findRelation(thing, name);
  }

  static @Nullable Relation findRelation(Thing thing, String name) {
    return thing.relations().stream()
        .filter(one -> same(one.word(), name))
        .findFirst()
        .orElse(null);
  }

  /** RFC 7644, section 3.4.2.2: the case of attribute names does not matter. */
  private static boolean same(String word, @Nullable String name) {
    return name != null && word.toLowerCase(Locale.ROOT).equals(name.toLowerCase(Locale.ROOT));
  }
}
