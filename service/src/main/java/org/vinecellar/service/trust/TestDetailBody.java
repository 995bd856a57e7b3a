package org.vinecellar.service.trust;

import java.util.List;
import java.util.Map;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.runs.KeptTest;
import org.vinecellar.core.trust.TrustStore;

/**
 * A test with what is known of it, but for its results.
 *
 * @param suite names from the outermost in
 * @param file its source file, as told last
 * @param names what it was called before, or may have been
 * @param becomes the number of the test as which it goes on
 * @param streams that have had it, those with the latest run first
 */
@Schema(name = "TestDetail")
public record TestDetailBody(
    long id,
    List<String> suite,
    String name,
    @Schema(nullable = true) @Nullable String parameters,
    Map<String, String> variant,
    @Schema(nullable = true) @Nullable String file,
    List<String> tags,
    List<RenameBody> names,
    @Schema(nullable = true) @Nullable Long becomes,
    List<TakenBody> streams) {
  static TestDetailBody of(TrustStore.TestDetail detail) {
    KeptTest test = detail.test();
    return new TestDetailBody(
        test.id(),
        test.suite(),
        test.name(),
        test.parameters(),
        test.variant(),
        detail.file(),
        detail.tags(),
        detail.names().stream().map(RenameBody::of).toList(),
        detail.becomes(),
        detail.streams().stream().map(TakenBody::of).toList());
  }
}
