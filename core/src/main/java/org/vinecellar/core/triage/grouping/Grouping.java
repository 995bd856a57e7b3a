package org.vinecellar.core.triage.grouping;

import java.util.ArrayList;
import java.util.Collection;
import java.util.Comparator;
import java.util.HashMap;
import java.util.HashSet;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeMap;
import java.util.TreeSet;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.triage.signature.KeyKind;
import org.vinecellar.core.triage.signature.Signature;

/**
 * Decides to which group each failure of a run belongs. What comes out does not depend on the order
 * of the failures: those that know most are placed first, in the order of their keys.
 */
public final class Grouping {
  /** So many hosts unknown at once are the name service. */
  private static final int HOSTS_AT_ONCE = 3;

  private static final String UNKNOWN_NAME = "environment name-unknown|";

  /** Why a failure is in its group; the codes are stored and never change. */
  public enum Joined {
    /** By its key. */
    KEY(0),
    /** It knows less than the group, and there is but one that it can belong to. */
    ASKED(1),
    /** Its error is like that of the group. */
    LIKE(2);

    private final int code;

    Joined(int code) {
      this.code = code;
    }

    /** The stored number. */
    public int code() {
      return code;
    }
  }

  /**
   * A group to be made, or one that is known.
   *
   * @param known null for a new one
   * @param first the signature that it is made of; of a known one, that which was found
   */
  public record Placed(@Nullable KnownGroup known, Signature first, Joined joined) {
    /**
     * Whether what is decided at one test of the group holds for a result with this signature at
     * another.
     */
    public boolean carries(Signature own) {
      return switch (joined) {
        case KEY -> own.strong();
        // The method is the same, and only the type of the error was not told.
        case ASKED -> own.kind() == KeyKind.FRAME;
        case LIKE -> false;
      };
    }
  }

  /**
   * All groups that the failures belong to.
   *
   * @param of each signature, by its key
   * @param keys more keys of each group, known or new, by the key of its first signature
   */
  public record Result(Map<String, Placed> of, Map<String, Set<GroupKey>> keys) {}

  private final KnownGroups known;
  private final Map<String, Placed> placed = new LinkedHashMap<>();
  private final Map<String, Set<GroupKey>> keys = new HashMap<>();
  private final Map<GroupKey, Set<String>> here = new HashMap<>();

  /** Known groups that results of this run which know enough belong to. */
  private final Set<Long> taken = new HashSet<>();

  /** What is offered in this run, and by how many that know enough. */
  private final Map<String, Integer> offered = new HashMap<>();

  private Grouping(KnownGroups known, Collection<Signature> all) {
    this.known = known;
    for (Signature one : all) {
      if (one.asks().isEmpty()) {
        one.offers().forEach(offer -> offered.merge(offer, 1, Integer::sum));
      }
    }
  }

  /** The signatures of a run as they are once all of it is known. */
  public static List<Signature> settled(List<Signature> signatures) {
    Set<String> hosts = new TreeSet<>();
    for (Signature one : signatures) {
      if (one.key().startsWith(UNKNOWN_NAME) && one.asks().isEmpty()) {
        hosts.add(one.key());
      }
    }
    if (hosts.size() < HOSTS_AT_ONCE) {
      return signatures;
    }
    List<Signature> settled = new ArrayList<>(signatures.size());
    for (Signature one : signatures) {
      settled.add(one.key().startsWith(UNKNOWN_NAME) ? ofNameService(one) : one);
    }
    return settled;
  }

  private static Signature ofNameService(Signature one) {
    return new Signature(
        KeyKind.ENVIRONMENT,
        UNKNOWN_NAME + "(name service)",
        List.of(),
        List.of(),
        "the name service does not know several hosts at once",
        one.words(),
        one.template(),
        true);
  }

  /** What is asked of the known groups first. */
  public static Set<GroupKey> asked(Collection<Signature> signatures) {
    Set<String> keys = new HashSet<>();
    signatures.forEach(one -> keys.add(one.key()));
    Set<GroupKey> all = new HashSet<>();
    keys.forEach(key -> all.add(GroupKey.of(GroupKey.Use.KEY, key)));
    return all;
  }

  /**
   * What is asked then: whatever else may tell the groups of those that have no key that is known.
   */
  public static Set<GroupKey> askedThen(Collection<Signature> signatures, KnownGroups found) {
    Map<String, Boolean> isKnown = new HashMap<>();
    Set<GroupKey> all = new HashSet<>();
    for (Signature one : signatures) {
      if (!isKnown.computeIfAbsent(
          one.key(), key -> !found.with(GroupKey.of(GroupKey.Use.KEY, key)).isEmpty())) {
        all.addAll(keysOf(one));
        one.offers().forEach(offer -> all.add(GroupKey.of(GroupKey.Use.ASK, offer)));
        one.asks().forEach(ask -> all.add(GroupKey.of(GroupKey.Use.OFFER, ask)));
        if (!one.kind().isStrong()) {
          all.add(GroupKey.of(GroupKey.Use.LIKE, one.key()));
        }
      }
    }
    return all;
  }

  /**
   * @param signatures settled
   * @param known asked for what {@link #asked} and {@link #askedThen} list
   */
  public static Result of(Collection<Signature> signatures, KnownGroups known) {
    Map<String, List<Signature>> distinct = new TreeMap<>();
    signatures.forEach(one -> distinct.computeIfAbsent(one.key(), k -> new ArrayList<>()).add(one));
    List<Signature> ordered = new ArrayList<>();
    distinct.values().forEach(same -> ordered.add(Signature.ofAll(same)));
    ordered.sort(
        Comparator.comparing((Signature one) -> !one.asks().isEmpty())
            .thenComparing(one -> one.kind().code())
            .thenComparing(Signature::key));
    Grouping grouping = new Grouping(known, ordered);
    ordered.forEach(grouping::place);
    return new Result(grouping.placed, grouping.keys);
  }

  private void place(Signature one) {
    GroupKey key = GroupKey.of(GroupKey.Use.KEY, one.key());
    List<KnownGroup> found = known.with(key);
    boolean runOnly =
        !one.asks().isEmpty()
            && one.asks().stream().allMatch(ask -> ask.startsWith(Signature.IN_RUN));
    Placed beside = runOnly ? asking(one) : null;
    if (beside != null) {
      // What else fails in the run tells what it is: this time, and not the next.
      placed.put(one.key(), beside);
      return;
    }
    if (!found.isEmpty()) {
      enter(one, new Placed(found.get(0), one, Joined.KEY));
      return;
    }
    List<KnownGroup> likeBefore = known.with(GroupKey.of(GroupKey.Use.LIKE, one.key()));
    if (!likeBefore.isEmpty()) {
      enter(one, new Placed(likeBefore.get(0), one, Joined.LIKE));
      return;
    }
    Placed joined = one.asks().isEmpty() ? null : asking(one);
    joined = joined == null ? adopting(one) : joined;
    if (joined == null && !one.kind().isStrong()) {
      joined = like(one);
    }
    enter(one, joined == null ? new Placed(null, one, Joined.KEY) : joined);
  }

  private void enter(Signature one, Placed where) {
    placed.put(one.key(), where);
    if (where.known() != null && where.joined() == Joined.KEY && one.asks().isEmpty()) {
      taken.add(where.known().id());
    }
    Set<GroupKey> more =
        keys.computeIfAbsent(where.first().key(), k -> new java.util.LinkedHashSet<>());
    Collection<GroupKey> own =
        switch (where.joined()) {
          case KEY -> keysOf(one);
          // What is merely like a group does not make the group any wider, and stays merely like
          // it.
          case LIKE -> List.of(GroupKey.of(GroupKey.Use.LIKE, one.key()));
          // What knows less is asked for anew in each run: next time it may be another's.
          case ASKED -> List.of();
        };
    for (GroupKey key : own) {
      if (more.add(key)) {
        here.computeIfAbsent(key, k -> new TreeSet<>()).add(where.first().key());
      }
    }
  }

  /** A group that was made of results which knew less, and can be no other's. */
  private @Nullable Placed adopting(Signature one) {
    for (String offer : one.offers()) {
      if (offer.startsWith(Signature.IN_RUN)) {
        continue;
      }
      GroupKey ask = GroupKey.of(GroupKey.Use.ASK, offer);
      GroupKey told = GroupKey.of(GroupKey.Use.OFFER, offer);
      Set<String> inRun = new TreeSet<>(here.getOrDefault(ask, Set.of()));
      // Those that somebody else's results made whole are no longer to be had.
      inRun.removeAll(here.getOrDefault(told, Set.of()));
      Placed beside = inRun.size() == 1 ? placed.get(inRun.iterator().next()) : null;
      if (beside != null && beside.first().kind() == one.kind()) {
        return new Placed(beside.known(), beside.first(), Joined.KEY);
      }
      if (!inRun.isEmpty()) {
        continue;
      }
      // Where several may be meant, or were, it is nobody's.
      if (offered.getOrDefault(offer, 0) > 1 || !known.with(told).isEmpty()) {
        continue;
      }
      List<KnownGroup> groups = new ArrayList<>(known.with(ask));
      groups.removeIf(group -> taken.contains(group.id()));
      if (groups.size() == 1 && groups.get(0).kind() == one.kind()) {
        return new Placed(groups.get(0), one, Joined.KEY);
      }
    }
    return null;
  }

  /** The only group that offers what is asked for: of this run, or else of all. */
  private @Nullable Placed asking(Signature one) {
    for (String ask : one.asks()) {
      GroupKey offer = GroupKey.of(GroupKey.Use.OFFER, ask);
      Set<String> inRun = here.getOrDefault(offer, Set.of());
      if (inRun.size() == 1) {
        Placed group = placed.get(inRun.iterator().next());
        if (group != null) {
          return new Placed(group.known(), group.first(), Joined.ASKED);
        }
      }
      List<KnownGroup> groups =
          inRun.isEmpty() && !ask.startsWith(Signature.IN_RUN) ? known.with(offer) : List.of();
      if (groups.size() == 1) {
        return new Placed(groups.get(0), one, Joined.ASKED);
      }
    }
    return null;
  }

  private @Nullable Placed like(Signature one) {
    Placed best = null;
    double most = 0;
    for (GroupKey key : likeKeys(one)) {
      double bar = key.use() == GroupKey.Use.BAND ? Likeness.BAR : Likeness.BAR_IN_TEST;
      for (KnownGroup group : known.with(key)) {
        double likeness = group.kind() == one.kind() ? Likeness.of(group.words(), one.words()) : 0;
        if (likeness >= bar && likeness > most) {
          most = likeness;
          best = new Placed(group, one, Joined.LIKE);
        }
      }
      for (String first : here.getOrDefault(key, Set.of())) {
        Placed group = placed.get(first);
        double likeness =
            group != null && group.first().kind() == one.kind()
                ? Likeness.of(group.first().words(), one.words())
                : 0;
        if (group != null && likeness >= bar && likeness > most) {
          most = likeness;
          best = new Placed(group.known(), group.first(), Joined.LIKE);
        }
      }
    }
    return best;
  }

  private static List<GroupKey> likeKeys(Signature one) {
    if (one.kind() == KeyKind.TEXT) {
      return Likeness.bands(one.words()).stream().map(GroupKey::band).toList();
    }
    return List.of();
  }

  /** By what a group with this signature is found. */
  static Set<GroupKey> keysOf(Signature one) {
    Set<GroupKey> keys = new java.util.LinkedHashSet<>();
    keys.add(GroupKey.of(GroupKey.Use.KEY, one.key()));
    one.offers().forEach(offer -> keys.add(GroupKey.of(GroupKey.Use.OFFER, offer)));
    one.asks().stream()
        .filter(ask -> !ask.startsWith(Signature.IN_RUN))
        .forEach(ask -> keys.add(GroupKey.of(GroupKey.Use.ASK, ask)));
    if (one.kind() == KeyKind.TEXT) {
      Likeness.bands(one.words()).forEach(band -> keys.add(GroupKey.band(band)));
    }
    return keys;
  }
}
