package org.vinecellar.service.guard;

import io.netty.util.NetUtil;
import io.vertx.core.http.HttpServerRequest;
import io.vertx.core.net.SocketAddress;
import java.util.HexFormat;
import org.jspecify.annotations.Nullable;

/** Where requests come from, as far as it can be believed. */
public final class Addresses {
  private static final int IPV4_BYTES = 4;
  private static final int NETWORK_BYTES = 8;

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
    byte[] bytes = NetUtil.createByteArrayFromIpAddressString(address);
    return bytes == null || bytes.length == IPV4_BYTES
        ? address
        : HexFormat.ofDelimiter(":").formatHex(bytes, 0, NETWORK_BYTES) + "::/64";
  }
}
