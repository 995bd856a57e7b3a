package org.vinecellar.core.filters;

import java.util.ArrayDeque;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.Deque;
import java.util.List;
import java.util.Locale;
import org.jspecify.annotations.Nullable;

/**
 * What could stand where somebody is writing a filter. Looks only at what stands before; where that
 * makes no sense, nothing is proposed.
 *
 * @param from where the word begins that is being written
 * @param to where it ends
 * @param begun what of it is written: of a text, what stands after its quote
 * @param proposals words that could stand there instead
 * @param valuesOf attribute of whose values one could; null when none could
 * @param key that stands before the value, of a keyed attribute; null for none
 * @param keysOf attribute of whose keys one could; null when none could
 * @param savedOf saved filters of which one could be named; null when none could
 */
public record Completion(
    int from,
    int to,
    String begun,
    List<Proposal> proposals,
    @Nullable Attribute valuesOf,
    @Nullable String key,
    @Nullable Attribute keysOf,
    @Nullable Saved savedOf) {

  /** Copies the list. */
  public Completion {
    proposals = List.copyOf(proposals);
  }

  /** A word, as it is to be written, and what it means. */
  public record Proposal(String text, String meaning) {}

  /**
   * Saved filters.
   *
   * @param word before their names
   * @param of what they pick
   */
  public record Saved(String word, Thing of) {}

  /** A value as it is written. */
  public static String quoted(String value) {
    return JsonText.quoted(value);
  }

  /**
   * What could stand there.
   *
   * @param at where in the text somebody writes
   */
  public static Completion at(String text, int at, Thing thing) {
    int cursor = Math.max(0, Math.min(at, text.length()));
    return new Reading(text, cursor, thing).read();
  }

  /** What may come next. */
  private enum Next {
    NAME,
    OPERATOR,
    VALUE,
    LINK
  }

  /** Walks over the words before the cursor. */
  private static final class Reading {
    private final String text;
    private final int cursor;
    private final Deque<Thing> things = new ArrayDeque<>();
    private final Deque<Tokens.Kind> open = new ArrayDeque<>();
    private Next next = Next.NAME;
    private String path = "";
    private boolean lost;

    Reading(String text, int cursor, Thing thing) {
      this.text = text;
      this.cursor = cursor;
      things.push(thing);
    }

    Completion read() {
      String before = text.substring(0, cursor);
      try {
        Tokens tokens = new Tokens(before);
        while (tokens.kind() != Tokens.Kind.END && !lost) {
          if (tokens.end() == cursor && isBeingWritten(tokens.kind())) {
            return propose(tokens.at(), tokens.value());
          }
          take(tokens);
          tokens.next();
        }
      } catch (FilterException e) {
        boolean quote = e.at() < cursor && before.charAt(e.at()) == '"';
        return quote && next == Next.VALUE
            ? propose(e.at(), before.substring(e.at() + 1))
            : nothing();
      }
      return lost ? nothing() : propose(cursor, "");
    }

    private static boolean isBeingWritten(Tokens.Kind kind) {
      return kind == Tokens.Kind.WORD || kind == Tokens.Kind.NUMBER;
    }

    private Completion nothing() {
      return new Completion(cursor, cursor, "", List.of(), null, null, null, null);
    }

    private void take(Tokens tokens) {
      switch (tokens.kind()) {
        case OPEN -> {
          lost = next != Next.NAME;
          open.push(Tokens.Kind.CLOSE);
          things.push(things.getFirst());
        }
        case INNER_OPEN -> inside();
        case CLOSE, INNER_CLOSE -> {
          lost = next != Next.LINK || open.isEmpty() || open.pop() != tokens.kind();
          if (!lost) {
            Thing unused = things.pop();
          }
        }
        case WORD -> word(tokens);
        case TEXT, NUMBER -> {
          lost = next != Next.VALUE;
          next = Next.LINK;
        }
        case END -> lost = true;
      }
    }

    private void inside() {
      Relation relation = Resolver.findRelation(things.getFirst(), path);
      lost = next != Next.OPERATOR || relation == null;
      if (relation != null) {
        things.push(relation.to());
        open.push(Tokens.Kind.INNER_CLOSE);
        next = Next.NAME;
      }
    }

    private void word(Tokens tokens) {
      switch (next) {
        case NAME -> {
          if (!tokens.is("not")) {
            path = tokens.value();
            next = Next.OPERATOR;
          }
        }
        case OPERATOR -> next = tokens.is("pr") ? Next.LINK : Next.VALUE;
        case VALUE -> next = Next.LINK;
        case LINK -> {
          lost = !tokens.is("and") && !tokens.is("or");
          next = Next.NAME;
        }
      }
    }

    private Completion propose(int from, String begun) {
      List<Proposal> all = new ArrayList<>();
      Attribute valuesOf = null;
      Attribute keysOf = null;
      switch (next) {
        case NAME -> {
          int dot = begun.indexOf('.');
          if (dot < 0) {
            names(all);
          } else {
            keysOf = inner(begun.substring(0, dot), all);
          }
        }
        case OPERATOR -> operators(all);
        case VALUE -> {
          valuesOf = attribute();
          values(valuesOf, all);
        }
        case LINK -> links(all);
      }
      String lower = begun.toLowerCase(Locale.ROOT);
      List<Proposal> fitting =
          all.stream()
              .filter(one -> bare(one.text()).toLowerCase(Locale.ROOT).startsWith(lower))
              .toList();
      boolean keyed = valuesOf != null && valuesOf.isKeyed() && path.indexOf('.') >= 0;
      String key = keyed ? path.substring(path.indexOf('.') + 1) : null;
      Saved savedOf =
          next == Next.VALUE && isSaved()
              ? new Saved(path.toLowerCase(Locale.ROOT), things.getFirst())
              : null;
      return new Completion(from, end(from), begun, fitting, valuesOf, key, keysOf, savedOf);
    }

    private static String bare(String proposal) {
      return proposal.startsWith("\"") ? proposal.substring(1) : proposal;
    }

    /** Where what is being written ends: at its closing quote, or where its word does. */
    private int end(int from) {
      int end = cursor;
      if (from < text.length() && text.charAt(from) == '"') {
        while (end < text.length() && text.charAt(end) != '"' && text.charAt(end) != '\n') {
          end++;
        }
        return Math.min(text.length(), end + 1);
      }
      if (from < cursor) {
        return Tokens.endOfWord(text, end);
      }
      return end;
    }

    private void names(List<Proposal> all) {
      Thing thing = things.getFirst();
      for (Attribute one : thing.attributes()) {
        all.add(new Proposal(one.word() + (one.isKeyed() ? "." : " "), one.meaning()));
      }
      for (Relation one : thing.relations()) {
        all.add(new Proposal(one.word() + "[", one.meaning()));
      }
      if (thing.isListed()) {
        all.add(new Proposal(SavedNames.SHARED + " eq ", "fits a saved filter of the project"));
        all.add(new Proposal(SavedNames.MINE + " eq ", "fits a saved filter of your own"));
      }
      all.add(new Proposal("not (", "what does not hold"));
    }

    /** After a dot; the attribute whose keys could stand there, if it is one. */
    private @Nullable Attribute inner(String name, List<Proposal> all) {
      Thing thing = things.getFirst();
      Relation relation = Resolver.findRelation(thing, name);
      if (relation != null) {
        for (Attribute one : relation.to().attributes()) {
          if (!one.isKeyed()) {
            all.add(new Proposal(relation.word() + "." + one.word() + " ", one.meaning()));
          }
        }
      }
      Attribute attribute = Resolver.find(thing, name);
      return attribute != null && attribute.isKeyed() ? attribute : null;
    }

    private boolean isSaved() {
      return things.getFirst().isListed()
          && (path.equalsIgnoreCase(SavedNames.SHARED) || path.equalsIgnoreCase(SavedNames.MINE));
    }

    /** What the path names; null when nothing. */
    private @Nullable Attribute attribute() {
      int dot = path.indexOf('.');
      Thing thing = things.getFirst();
      if (dot < 0) {
        return Resolver.find(thing, path);
      }
      String name = path.substring(0, dot);
      Attribute keyed = Resolver.find(thing, name);
      if (keyed != null && keyed.isKeyed()) {
        return keyed;
      }
      Relation relation = Resolver.findRelation(thing, name);
      return relation == null ? null : Resolver.find(relation.to(), path.substring(dot + 1));
    }

    private void operators(List<Proposal> all) {
      if (isSaved()) {
        all.add(new Proposal("eq ", Operator.EQ.meaning()));
        all.add(new Proposal("ne ", Operator.NE.meaning()));
        return;
      }
      Attribute attribute = attribute();
      if (attribute == null) {
        return;
      }
      Arrays.stream(Operator.values())
          .filter(attribute.kind().operators()::contains)
          .forEach(one -> all.add(new Proposal(one.word() + " ", one.meaning())));
      all.add(new Proposal("pr", "is there"));
    }

    private static void values(@Nullable Attribute attribute, List<Proposal> all) {
      if (attribute == null) {
        return;
      }
      switch (attribute.kind()) {
        case CHOICE -> attribute.choices().forEach(one -> all.add(new Proposal(quoted(one), "")));
        case FLAG -> {
          all.add(new Proposal("true", attribute.meaning()));
          all.add(new Proposal("false", "the contrary"));
        }
        case TIME -> {
          all.add(new Proposal("\"-PT24H\"", "24 hours ago"));
          all.add(new Proposal("\"-P7D\"", "7 days ago"));
          all.add(new Proposal("\"-P1M\"", "a month ago"));
        }
        case TEXT, NAME, NUMBER, SECONDS -> {
          // Free, or such as there are.
        }
      }
    }

    private void links(List<Proposal> all) {
      all.add(new Proposal("and ", "both hold"));
      all.add(new Proposal("or ", "at least one holds"));
      if (!open.isEmpty()) {
        all.add(new Proposal(open.getFirst() == Tokens.Kind.CLOSE ? ")" : "]", "ends here"));
      }
    }
  }
}
