package org.vinecellar.bench;

import java.util.Map;

/** The portal and the database behind it, as {@code ./cellar bench} started them. */
record Target(String url, String token, String database, String password, long servicePid) {
  static Target fromProperties() {
    return new Target(
        System.getProperty("bench.url"),
        System.getProperty("bench.token"),
        System.getProperty("bench.db"),
        System.getProperty("bench.password"),
        Long.parseLong(System.getProperty("bench.service")));
  }

  Map<String, String> environment() {
    return Map.of("VINE_URL", url, "VINE_TOKEN", token);
  }
}
