package org.vinecellar.service.web;

import com.fasterxml.jackson.databind.DeserializationFeature;
import com.fasterxml.jackson.databind.ObjectMapper;
import io.quarkus.jackson.ObjectMapperCustomizer;
import jakarta.inject.Singleton;

/** What a body says is taken as it is: a day and a half is no whole number of days. */
@Singleton
public class StrictJson implements ObjectMapperCustomizer {
  @Override
  public void customize(ObjectMapper mapper) {
    mapper.disable(DeserializationFeature.ACCEPT_FLOAT_AS_INT);
  }
}
