package org.vinecellar.service.bundles;

import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.net.HostAndPort;
import jakarta.inject.Singleton;
import java.net.URI;
import java.util.Locale;
import java.util.Optional;
import java.util.Set;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.PublicAddress;

/**
 * The host names of bundles, one for each, so that each has an origin of its own. On the machine
 * itself these are names under {@code localhost}, which browsers find without a name server (RFC
 * 6761 §6.3); elsewhere the operator tells of a wildcard name. Where there is neither, all bundles
 * share one host, and none of them gets an origin.
 */
@Singleton
public class BundleHosts {
  private static final String NONE = "none";
  private static final String LOCAL = ".localhost";
  private static final Set<String> HERE = Set.of("localhost", "127.0.0.1", "::1", "[::1]");
  private static final Pattern OF_ONE = Pattern.compile("b[0-9]+-[0-9]+(\\..+)");
  private static final Pattern WILDCARD =
      Pattern.compile("\\*((?:\\.[a-z0-9](?:[a-z0-9-]{0,61}[a-z0-9])?)+)(:[0-9]{1,5})?");

  private final VineConfig.Bundle config;
  private final PublicAddress address;

  /** What follows the first label of each name; null when none was told of. */
  private final @Nullable String told;

  private final @Nullable String toldPort;
  private final boolean never;

  BundleHosts(VineConfig config, PublicAddress address) {
    this.config = config.bundle();
    this.address = address;
    String host = this.config.host().map(name -> name.toLowerCase(Locale.ROOT)).orElse("");
    this.never = host.equals(NONE);
    if (host.isEmpty() || never) {
      this.told = null;
      this.toldPort = null;
      return;
    }
    Matcher wildcard = WILDCARD.matcher(host);
    if (!wildcard.matches()) {
      throw new IllegalArgumentException(
          "VINE_BUNDLE_HOST is “"
              + host
              + "”; it takes a wildcard name, with a port if need be, as in"
              + " *.reports.example.org, or the word none");
    }
    this.told = wildcard.group(1);
    this.toldPort = wildcard.group(2);
  }

  /**
   * Where a bundle is found by browsers, without a slash at the end.
   *
   * @param own whether it has an origin of its own there
   */
  record Place(String base, boolean own) {}

  /**
   * The place of a bundle, for whoever asked the portal.
   *
   * @param port of the server of bundles
   */
  Place of(int projectId, long bundleId, HttpServerRequest request, int port) {
    String label = label(projectId, bundleId);
    if (told != null) {
      String scheme = address.isHttps() ? "https" : "http";
      String at = toldPort != null ? toldPort : address.isHttps() ? "" : ":" + port;
      return new Place(scheme + "://" + label + told + at, true);
    }
    Optional<String> url = config.url().map(known -> known.replaceAll("/+$", ""));
    if (url.isPresent()) {
      return new Place(url.get(), false);
    }
    URI portal = URI.create(address.base(request));
    boolean local = "http".equals(portal.getScheme()) && HERE.contains(portal.getHost());
    return local && !never
        ? new Place("http://" + label + LOCAL + ":" + port, true)
        : new Place(address.base(request, port), false);
  }

  /** Whether a request for a bundle came by the host name that is that bundle's alone. */
  boolean isOwn(Tickets.Ticket ticket, @Nullable HostAndPort asked) {
    if (asked == null || never) {
      return false;
    }
    String label = label(ticket.projectId(), ticket.bundleId());
    String host = asked.host().toLowerCase(Locale.ROOT);
    return host.equals(label + LOCAL) || (told != null && host.equals(label + told));
  }

  /** Whether it came by a name for one bundle alone, whichever that is. */
  boolean isOfOne(@Nullable HostAndPort asked) {
    if (asked == null || never) {
      return false;
    }
    Matcher name = OF_ONE.matcher(asked.host().toLowerCase(Locale.ROOT));
    return name.matches() && (name.group(1).equals(LOCAL) || name.group(1).equals(told));
  }

  private static String label(int projectId, long bundleId) {
    return "b" + projectId + "-" + bundleId;
  }
}
