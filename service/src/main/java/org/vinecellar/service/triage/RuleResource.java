package org.vinecellar.service.triage;

import jakarta.ws.rs.Consumes;
import jakarta.ws.rs.DELETE;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.POST;
import jakarta.ws.rs.PUT;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.PathParam;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.time.InstantSource;
import java.util.List;
import java.util.Objects;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.access.Project;
import org.vinecellar.core.access.Right;
import org.vinecellar.core.edits.EditStore.Hand;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.triage.rules.Rule;
import org.vinecellar.core.triage.rules.RuleDraft;
import org.vinecellar.core.triage.rules.RuleStore;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.work.Worker;

/** Rules, which explain failures without a person. */
@Path("/api/v1/projects/{project}/rules")
@Tag(name = "triage")
@Produces(MediaType.APPLICATION_JSON)
public class RuleResource {
  private static final int USUAL_RUNS = 20;

  private final RuleStore store;
  private final Caller caller;
  private final Worker worker;
  private final InstantSource clock;

  RuleResource(RuleStore store, Caller caller, Worker worker, InstantSource clock) {
    this.store = store;
    this.caller = caller;
    this.worker = worker;
    this.clock = clock;
  }

  /**
   * What somebody writes as a rule. Of a filter and a pattern one can be left out.
   *
   * @param name for people
   * @param filter of results
   * @param pattern that stands in a failure's type, message or trace, as in RE2
   * @param category by its name
   * @param comment Markdown
   * @param on whether it explains anything; yes when left out
   * @param runs to so many of the latest runs with failures it is applied at once; 0 when left out
   */
  @Schema(name = "NewRule")
  public record RuleSaidBody(
      @Nullable String name,
      @Schema(nullable = true) @Nullable String filter,
      @Schema(nullable = true) @Nullable String pattern,
      @Nullable String category,
      @Schema(nullable = true) @Nullable String comment,
      @Schema(nullable = true) @Nullable Boolean on,
      @Schema(nullable = true) @Nullable Integer runs) {
    RuleDraft draft() {
      return new RuleDraft(
          text(name),
          text(filter),
          text(pattern),
          VerdictWords.category(category),
          VerdictWords.comment(comment),
          on == null || on);
    }

    int latest() {
      return RuleResource.latest(runs, 0);
    }

    private static String text(@Nullable String text) {
      return text == null ? "" : text.replace("\0", "");
    }
  }

  /**
   * A rule as it shall be.
   *
   * @param version that was seen
   */
  @Schema(name = "ChangedRule")
  public record RuleChangeBody(@Nullable Integer version, @Nullable RuleSaidBody rule) {}

  /**
   * A rule that shall be tried.
   *
   * @param filter of results
   * @param pattern as in RE2
   * @param rule that it would replace; null for a new one
   * @param runs on so many of the latest with failures; 20 when left out
   */
  @Schema(name = "NewRuleTrial")
  public record TrialBody(
      @Schema(nullable = true) @Nullable String filter,
      @Schema(nullable = true) @Nullable String pattern,
      @Schema(nullable = true) @Nullable Long rule,
      @Schema(nullable = true) @Nullable Integer runs) {}

  /** In which order they are asked, by their IDs: all of them. */
  @Schema(name = "RuleOrder")
  public record OrderBody(@Nullable List<@Nullable Long> rules) {}

  /**
   * What is taken back.
   *
   * @param results that lose their explanation
   */
  @Schema(name = "TakenBack")
  public record TakenBackBody(int results) {}

  @GET
  @Operation(operationId = "listRules", summary = "Rules, in the order in which they are asked")
  public List<RuleBody> rules(@PathParam("project") String key) {
    Project project = caller.project(key, Right.READ);
    return store.rules(project.id(), hand()).stream().map(RuleBody::of).toList();
  }

  @POST
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "addRule", summary = "Keep a rule, after all others")
  public RuleBody add(@PathParam("project") String key, @Nullable RuleSaidBody body) {
    Project project = caller.project(key, Right.EDIT);
    RuleSaidBody said = there(body);
    Rule rule = store.add(project.id(), said.draft(), said.latest(), hand());
    worker.soon();
    return RuleBody.of(rule);
  }

  @PUT
  @Path("{rule}")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "changeRule",
      summary = "Change a rule; what it has explained stays as it was said")
  public RuleBody change(
      @PathParam("project") String key, @PathParam("rule") long id, @Nullable RuleChangeBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null || body.version() == null) {
      throw new CellarException(
          ProblemCode.VERSION_NEEDED, "say which version of the rule you saw, as JSON: version");
    }
    RuleSaidBody said = there(body.rule());
    Rule rule = store.change(project.id(), id, body.version(), said.draft(), said.latest(), hand());
    worker.soon();
    return RuleBody.of(rule);
  }

  @DELETE
  @Path("{rule}")
  @Operation(
      operationId = "removeRule",
      summary = "Remove a rule; what it has explained stays as it was said")
  public void remove(@PathParam("project") String key, @PathParam("rule") long id) {
    Project project = caller.project(key, Right.EDIT);
    store.remove(project.id(), id, hand());
  }

  @DELETE
  @Path("{rule}/explained")
  @Operation(
      operationId = "takeBackRule",
      summary = "Switch a rule off, and take back all that it has explained")
  public TakenBackBody takeBack(@PathParam("project") String key, @PathParam("rule") long id) {
    Project project = caller.project(key, Right.EDIT);
    int results = store.takeBack(project.id(), id, hand());
    worker.soon();
    return new TakenBackBody(results);
  }

  @PUT
  @Path("order")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(operationId = "orderRules", summary = "Put the rules into another order")
  public void order(@PathParam("project") String key, @Nullable OrderBody body) {
    Project project = caller.project(key, Right.EDIT);
    List<@Nullable Long> ids = body == null ? null : body.rules();
    if (ids == null || ids.size() > RuleStore.MOST || ids.stream().anyMatch(Objects::isNull)) {
      throw invalid("say the order, as JSON: rules, a list of the IDs of all of them");
    }
    store.order(project.id(), ids.stream().map(Objects::requireNonNull).toList(), hand());
  }

  @POST
  @Path("trial")
  @Consumes(MediaType.APPLICATION_JSON)
  @Operation(
      operationId = "tryRule",
      summary = "What a rule would explain in the latest runs; nothing is changed")
  public RuleTrialBody trial(@PathParam("project") String key, @Nullable TrialBody body) {
    Project project = caller.project(key, Right.EDIT);
    if (body == null) {
      throw invalid("say what to try, as JSON: filter or pattern, and perhaps runs");
    }
    RuleDraft draft =
        new RuleDraft(
            "trial",
            RuleSaidBody.text(body.filter()),
            RuleSaidBody.text(body.pattern()),
            "none",
            null,
            true);
    return RuleTrialBody.of(
        store.trial(project.id(), draft, body.rule(), latest(body.runs(), USUAL_RUNS), hand()));
  }

  private static int latest(@Nullable Integer runs, int usual) {
    if (runs != null && (runs < 0 || runs > RuleStore.MOST_RUNS)) {
      throw invalid("runs is " + runs + "; it can be 0 to " + RuleStore.MOST_RUNS);
    }
    return runs == null ? usual : runs;
  }

  private static RuleSaidBody there(@Nullable RuleSaidBody body) {
    if (body == null) {
      throw invalid("say the rule, as JSON: name, filter or pattern, category");
    }
    return body;
  }

  private Hand hand() {
    return new Hand(caller.name(), clock.instant());
  }

  private static CellarException invalid(String message) {
    return new CellarException(ProblemCode.INVALID_VALUE, message);
  }
}
