package org.vinecellar.core.trust.renames;

import java.util.Collection;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Set;

/** The words of many names, and how much each tells: one that few names have tells more. */
final class Names {
  private final Map<Long, NameWords> words = new HashMap<>();
  private final Map<String, Integer> counts = new HashMap<>();
  private final int names;

  Names(Collection<String> others, Collection<Face> faces) {
    others.forEach(name -> count(NameWords.of(name)));
    for (Face face : faces) {
      NameWords its = NameWords.of(face.name());
      words.put(face.id(), its);
      count(its);
    }
    names = others.size() + faces.size();
  }

  private void count(NameWords its) {
    new HashSet<>(its.content()).forEach(word -> counts.merge(word, 1, Integer::sum));
  }

  NameWords of(Face face) {
    return Objects.requireNonNull(words.get(face.id()));
  }

  /** How many names have it. */
  int count(String word) {
    return counts.getOrDefault(word, 0);
  }

  private double weight(String word) {
    return Math.log(1 + (double) names / Math.max(1, count(word))) + 0.5;
  }

  /** How much of what one name says another one says too, from 0 to 1. */
  double contained(List<String> some, List<String> others) {
    Set<String> there = new HashSet<>(others);
    double all = 0;
    double found = 0;
    for (String word : new HashSet<>(some)) {
      double weight = weight(word);
      all += weight;
      found += there.contains(word) ? weight : 0;
    }
    return all == 0 ? 0 : found / all;
  }
}
