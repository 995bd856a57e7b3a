package org.vinecellar.service.operate;

import io.vertx.ext.web.Router;
import io.vertx.ext.web.RoutingContext;
import jakarta.enterprise.context.ApplicationScoped;
import jakarta.enterprise.event.Observes;
import org.vinecellar.service.guard.PublicAddress;

/** Where the portal is reached by HTTPS, it says that it always is (RFC 6797). */
@ApplicationScoped
public class TransportSecurity {
  private static final int FIRST = -4000;

  private final PublicAddress address;

  TransportSecurity(PublicAddress address) {
    this.address = address;
  }

  void register(@Observes Router router) {
    router.route().order(FIRST).handler(this::add);
  }

  private void add(RoutingContext context) {
    if (address.isHttps() || "https".equals(context.request().scheme())) {
      context.response().putHeader("Strict-Transport-Security", "max-age=31536000");
    }
    context.next();
  }
}
