package org.vinecellar.client.command;

import java.net.URI;
import java.util.Map;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.Portal;
import org.vinecellar.client.settings.SettingsFile;
import picocli.CommandLine.Option;

/** Which portal, and with which token. */
final class PortalOptions {
  private static final Pattern TOKEN =
      Pattern.compile("vine_([a-z0-9-]{1,64}|~)_[A-Za-z0-9_-]{16,}");

  @Option(
      names = "--url",
      paramLabel = "URL",
      description = "The portal's address (VINE_URL, or url in vine.yaml).")
  private @Nullable String url;

  @Option(
      names = "--token",
      paramLabel = "TOKEN",
      description = "A token of the project (VINE_TOKEN; better there than on a command line).")
  private @Nullable String token;

  @Option(
      names = "--project",
      paramLabel = "KEY",
      description = "The project, for a token of a person (VINE_PROJECT).")
  private @Nullable String project;

  @Option(names = "--json", description = "Print one JSON object and nothing else.")
  private boolean json;

  @Option(names = "--debug", description = "On a failure, print where in the program it arose.")
  private boolean debug;

  boolean json() {
    return json;
  }

  boolean debug() {
    return debug;
  }

  Portal portal(Map<String, String> environment, SettingsFile file) {
    String said = UploadSettings.told(url, environment.get("VINE_URL"));
    String address = said == null ? new TrustedPortals(environment).checked(file) : said;
    String secret = token != null ? token : environment.get("VINE_TOKEN");
    if (address == null || address.isBlank()) {
      throw wrong(
          "no portal is named; set VINE_URL, give --url http://host:8420, or write url into vine.yaml");
    }
    if (secret == null || secret.isBlank()) {
      throw wrong(
          "there is no token; set VINE_TOKEN (the portal makes one under Tokens of the project)");
    }
    Matcher matcher = TOKEN.matcher(secret.strip());
    if (!matcher.matches()) {
      throw wrong("the token does not look like one (vine_PROJECT_…); was it cut when copied?");
    }
    return new Portal(uri(address.strip()), secret.strip(), project(environment, matcher.group(1)));
  }

  private String project(Map<String, String> environment, String ofToken) {
    String said = UploadSettings.told(project, environment.get("VINE_PROJECT"));
    if (!ofToken.equals("~")) {
      if (project != null && !project.equals(ofToken)) {
        throw wrong("the token is one of the project " + ofToken + ", not of " + project);
      }
      return ofToken;
    }
    if (said == null || !said.matches("[a-z0-9-]{1,64}")) {
      throw wrong(
          "a person’s token is good in several projects; name one (--project, VINE_PROJECT)");
    }
    return said;
  }

  private static URI uri(String address) {
    try {
      URI uri = URI.create(address);
      if (uri.getHost() != null
          && ("http".equals(uri.getScheme()) || "https".equals(uri.getScheme()))) {
        return uri;
      }
    } catch (IllegalArgumentException e) {
      throw wrong("“" + address + "” is not an address: " + e.getMessage());
    }
    throw wrong("“" + address + "” is not an address that begins with http:// or https://");
  }

  private static CommandException wrong(String message) {
    return new CommandException(ExitCode.WRONG_CALL, message);
  }
}
