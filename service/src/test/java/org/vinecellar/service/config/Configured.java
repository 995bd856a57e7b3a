package org.vinecellar.service.config;

import io.quarkus.runtime.configuration.DurationConverter;
import io.smallrye.config.EnvConfigSource;
import io.smallrye.config.SmallRyeConfigBuilder;
import java.time.Duration;
import java.util.Map;

/** Settings as the service reads them from the environment. */
public final class Configured {
  private Configured() {}

  public static VineConfig by(Map<String, String> environment) {
    return new SmallRyeConfigBuilder()
        .withSources(new EnvConfigSource(environment, 300))
        .withConverter(Duration.class, 200, new DurationConverter())
        .withMapping(VineConfig.class)
        .build()
        .getConfigMapping(VineConfig.class);
  }
}
