package org.vinecellar.client.settings;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;

/**
 * What the job that calls us is, told by the environment variables that pipeline servers set. The
 * table can be extended in {@code vine.yaml}.
 */
public final class PipelineEnvironment {
  /** For each value the variables that may tell it, the first that is set wins. */
  private static final Pattern HARMLESS =
      Pattern.compile(
          "(?:[A-Z0-9_]+_)?(?:COMMIT|COMMIT_SHA|COMMIT_ID|SHA|SHA1|REV|REVISION|BRANCH|BRANCH_NAME|REF|REF_NAME"
              + "|CHANGE|CHANGE_ID|CHANGE_NUMBER|PULL_REQUEST|MERGE_REQUEST|BUILD_URL|JOB_URL|BUILD_LINK"
              + "|BUILD_NUMBER|BUILD_ID|TRIGGER|EVENT|EVENT_NAME|BUILD_REASON|ACTOR|USER_LOGIN)");

  private static final Pattern SECRET =
      Pattern.compile("TOKEN|SECRET|PASSWORD|PASSWD|CREDENTIAL|PRIVATE|API_?KEY|AUTH");
  private static final Map<String, List<String>> USUAL = usual();

  private final Map<String, String> environment;
  private final SettingsFile file;

  /** What those variables tell. */
  public PipelineEnvironment(Map<String, String> environment, SettingsFile file) {
    this.environment = environment;
    this.file = file;
  }

  private static Map<String, List<String>> usual() {
    Map<String, List<String>> table = new LinkedHashMap<>();
    table.put(
        "commit",
        List.of(
            "GIT_COMMIT",
            "CI_COMMIT_SHA",
            "GITHUB_SHA",
            "BUILD_SOURCEVERSION",
            "BITBUCKET_COMMIT",
            "CIRCLE_SHA1",
            "DRONE_COMMIT_SHA",
            "BUILDKITE_COMMIT",
            "TRAVIS_COMMIT",
            "GERRIT_PATCHSET_REVISION"));
    table.put(
        "branch",
        List.of(
            "CHANGE_BRANCH",
            "CI_COMMIT_REF_NAME",
            "GITHUB_HEAD_REF",
            "GITHUB_REF_NAME",
            "BRANCH_NAME",
            "BUILD_SOURCEBRANCHNAME",
            "BITBUCKET_BRANCH",
            "CIRCLE_BRANCH",
            "DRONE_BRANCH",
            "BUILDKITE_BRANCH",
            "TRAVIS_BRANCH",
            "GERRIT_BRANCH",
            "GIT_BRANCH"));
    table.put(
        "main-branch",
        List.of(
            "CI_DEFAULT_BRANCH",
            "CI_REPO_DEFAULT_BRANCH",
            "DRONE_REPO_BRANCH",
            "BUILDKITE_PIPELINE_DEFAULT_BRANCH"));
    table.put(
        "change",
        List.of(
            "CHANGE_ID",
            "CI_MERGE_REQUEST_IID",
            "SYSTEM_PULLREQUEST_PULLREQUESTNUMBER",
            "BITBUCKET_PR_ID",
            "DRONE_PULL_REQUEST",
            "BUILDKITE_PULL_REQUEST",
            "TRAVIS_PULL_REQUEST",
            "GERRIT_CHANGE_NUMBER"));
    table.put(
        "build-url",
        List.of(
            "CI_JOB_URL",
            "BUILD_URL",
            "CIRCLE_BUILD_URL",
            "DRONE_BUILD_LINK",
            "BUILDKITE_BUILD_URL",
            "TRAVIS_JOB_WEB_URL"));
    table.put(
        "trigger",
        List.of("CI_PIPELINE_SOURCE", "GITHUB_EVENT_NAME", "BUILD_REASON", "DRONE_BUILD_EVENT"));
    table.put(
        "by",
        List.of(
            "GITLAB_USER_LOGIN",
            "GITHUB_ACTOR",
            "BUILD_REQUESTEDFOR",
            "BUILD_USER_ID",
            "CIRCLE_USERNAME",
            "DRONE_COMMIT_AUTHOR",
            "BUILDKITE_BUILD_CREATOR"));
    table.put("attempt", List.of("GITHUB_RUN_ATTEMPT", "SYSTEM_JOBATTEMPT"));
    table.put(
        "job-status",
        List.of("CI_JOB_STATUS", "AGENT_JOBSTATUS", "DRONE_BUILD_STATUS", "TRAVIS_TEST_RESULT"));
    table.put(
        "job-started",
        List.of(
            "CI_JOB_STARTED_AT",
            "DRONE_STAGE_STARTED",
            "DRONE_BUILD_STARTED",
            "CI_PIPELINE_STARTED"));
    return table;
  }

  /** The table, for the documentation and its test. */
  public static Map<String, List<String>> table() {
    return USUAL;
  }

  /** One of our values; null when no variable tells it. */
  public @Nullable String value(String name) {
    List<String> variables = new ArrayList<>(file.variables(name));
    variables.forEach(this::requireHarmless);
    variables.addAll(USUAL.getOrDefault(name, List.of()));
    for (String variable : variables) {
      String value = environment.get(variable);
      if (value != null && !value.isBlank() && !value.equals("false")) {
        return value.strip();
      }
    }
    return name.equals("build-url") ? workflowUrl() : null;
  }

  /**
   * What {@code vine.yaml} asks for is published with the run, and that file comes with a
   * repository: only variables that tell of revisions and builds may be named there, or those that
   * the operator allows.
   */
  private void requireHarmless(String variable) {
    boolean usual = USUAL.values().stream().anyMatch(names -> names.contains(variable));
    boolean allowed =
        List.of(environment.getOrDefault("VINE_ALLOWED_VARIABLES", "").split("[,\\s]+"))
            .contains(variable);
    boolean harmless = HARMLESS.matcher(variable).matches() && !SECRET.matcher(variable).find();
    if (!usual && !allowed && !harmless) {
      throw new SettingsException(
          "vine.yaml asks for the environment variable “"
              + variable
              + "”, which may hold anything. Whoever runs the pipeline can allow it: VINE_ALLOWED_VARIABLES="
              + variable);
    }
  }

  /** One server tells the page of a job in three pieces. */
  private @Nullable String workflowUrl() {
    String server = environment.get("GITHUB_SERVER_URL");
    String repository = environment.get("GITHUB_REPOSITORY");
    String run = environment.get("GITHUB_RUN_ID");
    return server == null || repository == null || run == null
        ? null
        : server + "/" + repository + "/actions/runs/" + run;
  }
}
