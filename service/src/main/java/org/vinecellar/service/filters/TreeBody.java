package org.vinecellar.service.filters;

import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.filters.Filter;

/**
 * A filter as a tree, as it is written.
 *
 * @param kind all, any or not, of what stands in {@code of}; within, of what stands there too, for
 *     one that the name leads to; compare; present
 * @param of what it is made of; empty for a comparison
 * @param name of what is compared, or of a relation; null for all, any and not
 * @param operator null unless it compares
 * @param value as it is written; null unless it compares
 */
@Schema(name = "FilterTree")
public record TreeBody(
    @Schema(enumeration = {"all", "any", "not", "within", "compare", "present"}) String kind,
    List<TreeBody> of,
    @Schema(nullable = true) @Nullable String name,
    @Schema(nullable = true) @Nullable String operator,
    @Schema(nullable = true) @Nullable String value) {

  static TreeBody of(Filter filter) {
    return filter.accept(new Making());
  }

  private static final class Making implements Filter.Visitor<TreeBody> {
    @Override
    public TreeBody all(Filter.All filter) {
      return new TreeBody("all", each(filter.of()), null, null, null);
    }

    @Override
    public TreeBody any(Filter.Any filter) {
      return new TreeBody("any", each(filter.of()), null, null, null);
    }

    private static List<TreeBody> each(List<Filter> filters) {
      return filters.stream().map(TreeBody::of).toList();
    }

    @Override
    public TreeBody not(Filter.Not filter) {
      return new TreeBody("not", List.of(TreeBody.of(filter.of())), null, null, null);
    }

    @Override
    public TreeBody compared(Filter.Compared filter) {
      return new TreeBody(
          "compare",
          List.of(),
          filter.path().text(),
          filter.operator().word(),
          filter.value().text());
    }

    @Override
    public TreeBody present(Filter.Present filter) {
      return new TreeBody("present", List.of(), filter.path().text(), null, null);
    }

    @Override
    public TreeBody within(Filter.Within filter) {
      return new TreeBody(
          "within", List.of(TreeBody.of(filter.filter())), filter.path().text(), null, null);
    }
  }
}
