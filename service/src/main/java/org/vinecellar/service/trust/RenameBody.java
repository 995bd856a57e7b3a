package org.vinecellar.service.trust;

import com.fasterxml.jackson.annotation.JsonProperty;
import java.util.List;
import java.util.Locale;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.trust.TrustStore;

/**
 * A test that goes on under another name.
 *
 * @param old as it was called: the innermost suite's name, a hash and the test's name with its
 *     parameters
 * @param now as it is called
 * @param state joined: what is known of it goes on; offered: somebody has to say; apart: somebody
 *     said that they are two tests
 * @param run the number of the first run that has the new name; null when a person joined them
 * @param likely how sure it is, from 0 to 1
 * @param byHand whether a person said so
 * @param reasons why, in words
 */
@Schema(name = "Rename")
public record RenameBody(
    String old,
    @Schema(name = "new") @JsonProperty("new") String now,
    @Schema(enumeration = {"joined", "offered", "apart"}) String state,
    @Schema(nullable = true) @Nullable Integer run,
    double likely,
    boolean byHand,
    List<String> reasons,
    String variant,
    long oldTest,
    long newTest) {
  static RenameBody of(TrustStore.Renamed one) {
    return new RenameBody(
        TestWords.shortly(one.old()),
        TestWords.shortly(one.now()),
        one.joined() ? "joined" : one.byHand() ? "apart" : "offered",
        one.run(),
        Math.round(one.likely() * 1e3) / 1e3,
        one.byHand(),
        one.reasons().stream()
            .map(reason -> reason.name().toLowerCase(Locale.ROOT).replace('_', ' '))
            .toList(),
        TestWords.variant(one.now()),
        one.old().id(),
        one.now().id());
  }
}
