package org.vinecellar.service.filters;

import java.util.Arrays;
import java.util.List;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.vinecellar.core.filters.Attribute;
import org.vinecellar.core.filters.Kind;
import org.vinecellar.core.filters.Operator;
import org.vinecellar.core.filters.Relation;
import org.vinecellar.core.filters.Thing;

/**
 * What can be asked of a thing.
 *
 * @param thing its name
 * @param listed whether there are lists of it, and so saved filters
 */
@Schema(name = "FilterCatalogue")
public record CatalogueBody(
    String thing,
    String meaning,
    boolean listed,
    List<AttributeBody> attributes,
    List<RelationBody> relations) {

  /**
   * Something that is compared.
   *
   * @param keyed whether a key stands after a dot
   * @param kind text, name, choice, number, seconds, time or flag
   * @param operators that it can be compared by
   * @param choices its words; empty when there are not only a few
   * @param example a value as it is written
   */
  @Schema(name = "FilterAttribute")
  public record AttributeBody(
      String name,
      String meaning,
      boolean keyed,
      @Schema(enumeration = {"text", "name", "choice", "number", "seconds", "time", "flag"})
          String kind,
      List<String> operators,
      List<String> choices,
      String example) {
    static AttributeBody of(Attribute one) {
      return new AttributeBody(
          one.word(),
          one.meaning(),
          one.isKeyed(),
          word(one.kind()),
          Arrays.stream(Operator.values())
              .filter(one.kind().operators()::contains)
              .map(Operator::word)
              .toList(),
          one.choices(),
          one.kind().example());
    }

    private static String word(Kind kind) {
      return switch (kind) {
        case TEXT -> "text";
        case NAME -> "name";
        case CHOICE -> "choice";
        case NUMBER -> "number";
        case SECONDS -> "seconds";
        case TIME -> "time";
        case FLAG -> "flag";
      };
    }
  }

  /**
   * Something that a name in brackets leads to.
   *
   * @param to the thing there
   */
  @Schema(name = "FilterRelation")
  public record RelationBody(String name, String meaning, String to) {
    static RelationBody of(Relation one) {
      return new RelationBody(one.word(), one.meaning(), one.to().word());
    }
  }

  static List<CatalogueBody> all() {
    return Arrays.stream(Thing.values())
        .map(
            thing ->
                new CatalogueBody(
                    thing.word(),
                    thing.meaning(),
                    thing.isListed(),
                    thing.attributes().stream().map(AttributeBody::of).toList(),
                    thing.relations().stream().map(RelationBody::of).toList()))
        .toList();
  }
}
