package org.vinecellar.service.guard;

import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.net.SocketAddress;
import org.jspecify.annotations.Nullable;

/** Where requests come from, as far as it can be believed. */
public final class Addresses {
  private static final int GROUPS_OF_A_NETWORK = 4;

  private Addresses() {}

  /**
   * The address of a request, one word for all that one sender can choose from: a whole network of
   * 64 bits in IPv6 (RFC 6177).
   */
  public static String of(HttpServerRequest request) {
    SocketAddress address = request.remoteAddress();
    return grouped(address == null ? null : address.hostAddress());
  }

  static String grouped(@Nullable String address) {
    if (address == null) {
      return "unknown";
    }
    if (address.indexOf(':') < 0) {
      return address;
    }
    String[] groups = address.split("[:%]", -1);
    StringBuilder network = new StringBuilder();
    for (int i = 0; i < Math.min(GROUPS_OF_A_NETWORK, groups.length); i++) {
      network.append(groups[i]).append(':');
    }
    return network.append(":/64").toString();
  }
}
