package org.vinecellar.service.bundles;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.net.HostAndPort;
import java.lang.reflect.Proxy;
import java.util.HashMap;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import org.vinecellar.service.config.Configured;
import org.vinecellar.service.config.VineConfig;
import org.vinecellar.service.guard.PublicAddress;

/** Under which names bundles are found, and which of them are of one bundle alone. */
class BundleHostsTest {
  private static BundleHosts hosts(Map<String, String> environment) {
    VineConfig config = Configured.by(environment);
    return new BundleHosts(config, new PublicAddress(config));
  }

  /** A public address is told: nothing is asked of the request. */
  private static final HttpServerRequest NOTHING =
      (HttpServerRequest)
          Proxy.newProxyInstance(
              BundleHostsTest.class.getClassLoader(),
              new Class<?>[] {HttpServerRequest.class},
              (proxy, method, words) -> {
                throw new AssertionError(method);
              });

  @ParameterizedTest
  @CsvSource({
    // portal, host, url, base, own
    "https://vine.example.org, *.reports.example.org,, https://b3-7.reports.example.org, true",
    "https://vine.example.org, *.Reports.example.org:8443,, https://b3-7.reports.example.org:8443, true",
    "http://vine.example.org, *.reports.example.org,, http://b3-7.reports.example.org:8421, true",
    "https://vine.example.org, *.r.example, https://old.example, https://b3-7.r.example, true",
    "https://vine.example.org,, https://reports.example.org/, https://reports.example.org, false",
    "https://vine.example.org,,, https://vine.example.org:8421, false",
    "http://localhost:8420,,, http://b3-7.localhost:8421, true",
    "http://localhost:8420, none,, http://localhost:8421, false",
    "https://localhost:8420,,, https://localhost:8421, false",
  })
  void eachHasOneOfItsOwnWhereThereAreSuchNames(
      String portal, @Nullable String host, @Nullable String url, String base, boolean own) {
    Map<String, String> environment = new HashMap<>(Map.of("VINE_PUBLIC_URL", portal));
    if (host != null) {
      environment.put("VINE_BUNDLE_HOST", host);
    }
    if (url != null) {
      environment.put("VINE_BUNDLE_URL", url);
    }

    assertThat(hosts(environment).of(3, 7, NOTHING, 8421))
        .isEqualTo(new BundleHosts.Place(base, own));
  }

  @ParameterizedTest
  @CsvSource({
    "b3-7.localhost, true, true",
    "B3-7.LOCALHOST, true, true",
    "b3-7.reports.example.org, true, true",
    "b3-8.reports.example.org, false, true",
    "b33-7.localhost, false, true",
    "b3-7.evil.example, false, false",
    "x.b3-7.reports.example.org, false, false",
    "b3-7.reports.example.org.evil.example, false, false",
    "reports.localhost, false, false",
    "localhost, false, false",
    "127.0.0.1, false, false",
  })
  void aNameIsOfOneBundleAlone(String host, boolean own, boolean ofOne) {
    BundleHosts hosts = hosts(Map.of("VINE_BUNDLE_HOST", "*.reports.example.org"));
    HostAndPort asked = HostAndPort.create(host, 8421);

    assertThat(hosts.isOwn(new Tickets.Ticket(3, 7), asked)).isEqualTo(own);
    assertThat(hosts.isOfOne(asked)).isEqualTo(ofOne);
    assertThat(hosts(Map.of("VINE_BUNDLE_HOST", "none")).isOwn(new Tickets.Ticket(3, 7), asked))
        .isFalse();
  }

  @ParameterizedTest
  @ValueSource(strings = {"reports.example.org", "*", "*.", "*.-x.org", "https://*.a.org", "*.a/b"})
  void whatIsNoWildcardNameIsRefused(String host) {
    assertThatThrownBy(() -> hosts(Map.of("VINE_BUNDLE_HOST", host)))
        .isInstanceOf(IllegalArgumentException.class)
        .hasMessageContaining("VINE_BUNDLE_HOST is “" + host + "”")
        .hasMessageContaining("*.reports.example.org");
  }
}
