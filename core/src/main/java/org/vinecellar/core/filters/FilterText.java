package org.vinecellar.core.filters;

import java.util.List;
import java.util.stream.Collectors;

/** Writes a filter with as few parentheses as say the same. */
final class FilterText implements Filter.Visitor<String> {
  @Override
  public String all(Filter.All filter) {
    return filter.of().stream()
        .map(one -> one instanceof Filter.Any ? "(" + one.accept(this) + ")" : one.accept(this))
        .collect(Collectors.joining(" and "));
  }

  @Override
  public String any(Filter.Any filter) {
    List<String> each = filter.of().stream().map(one -> one.accept(this)).toList();
    return String.join(" or ", each);
  }

  @Override
  public String not(Filter.Not filter) {
    return "not (" + filter.of().accept(this) + ")";
  }

  @Override
  public String compared(Filter.Compared filter) {
    return filter.path().text() + " " + filter.operator().word() + " " + filter.value().text();
  }

  @Override
  public String present(Filter.Present filter) {
    return filter.path().text() + " pr";
  }

  @Override
  public String within(Filter.Within filter) {
    return filter.path().text() + "[" + filter.filter().accept(this) + "]";
  }
}
