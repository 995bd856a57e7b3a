package org.vinecellar.service.web;

import java.util.ArrayList;
import org.eclipse.microprofile.openapi.OASFilter;
import org.eclipse.microprofile.openapi.models.media.Schema;

/** Says in the API's document what holds for all bodies: every field is there, null or not. */
public class OpenApiShape implements OASFilter {
  @Override
  public Schema filterSchema(Schema schema) {
    if (schema.getProperties() != null && schema.getRequired() == null) {
      schema.setRequired(new ArrayList<>(schema.getProperties().keySet()));
    }
    return schema;
  }
}
