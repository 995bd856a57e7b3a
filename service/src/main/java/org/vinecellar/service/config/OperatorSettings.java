package org.vinecellar.service.config;

import java.io.IOException;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.Map;
import java.util.Set;
import org.eclipse.microprofile.config.spi.ConfigSource;
import org.jspecify.annotations.Nullable;

/**
 * Settings of the environment that need more than a value each: secrets that stand in files, so
 * that no list of processes shows them, and proxies that are trusted by name.
 */
public final class OperatorSettings implements ConfigSource {
  private static final int ABOVE_THE_DEFAULTS = 275;
  private static final Set<String> SECRETS = Set.of("VINE_DB_PASSWORD", "VINE_METRICS_TOKEN");

  private final Map<String, String> settings;

  /** As the service's configuration finds it. */
  public OperatorSettings() {
    this(System.getenv());
  }

  OperatorSettings(Map<String, String> environment) {
    Map<String, String> found = new LinkedHashMap<>();
    for (String name : SECRETS) {
      String file = environment.get(name + "_FILE");
      if (file != null && !file.isBlank()) {
        found.put(name, secret(name, file));
      }
    }
    String token = found.get("VINE_METRICS_TOKEN");
    if (token != null) {
      found.put("vine.metrics.token", token);
    }
    String proxies = environment.getOrDefault("VINE_TRUSTED_PROXIES", "").strip();
    if (!proxies.isEmpty()) {
      found.put("quarkus.http.proxy.proxy-address-forwarding", "true");
      found.put("quarkus.http.proxy.allow-x-forwarded", "true");
      found.put("quarkus.http.proxy.trusted-proxies", proxies);
    }
    settings = Map.copyOf(found);
  }

  private static String secret(String name, String file) {
    try {
      return Files.readString(Path.of(file)).strip();
    } catch (IOException e) {
      throw new IllegalArgumentException(name + "_FILE: the file cannot be read: " + e, e);
    }
  }

  @Override
  public Set<String> getPropertyNames() {
    return settings.keySet();
  }

  @Override
  public @Nullable String getValue(String name) {
    return settings.get(name);
  }

  @Override
  public String getName() {
    return "settings of the operator";
  }

  @Override
  public int getOrdinal() {
    return ABOVE_THE_DEFAULTS;
  }
}
