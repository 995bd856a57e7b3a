package org.vinecellar.store.access;

import static org.vinecellar.store.generated.Tables.SERVICE_SECRET;

import java.security.SecureRandom;
import org.vinecellar.core.access.ServiceSecrets;
import org.vinecellar.store.sql.Sql;

/** Secrets of the service in PostgreSQL. Thread-safe. */
public final class PgServiceSecrets implements ServiceSecrets {
  private static final int SECRET_BYTES = 32;

  private final Sql sql;

  /** On that database. */
  public PgServiceSecrets(Sql sql) {
    this.sql = sql;
  }

  @Override
  public byte[] secret(String name) {
    return sql.with(
        dsl -> {
          byte[] made = new byte[SECRET_BYTES];
          new SecureRandom().nextBytes(made);
          dsl.insertInto(SERVICE_SECRET)
              .set(SERVICE_SECRET.NAME, name)
              .set(SERVICE_SECRET.CONTENT, made)
              .onConflictDoNothing()
              .execute();
          return dsl.select(SERVICE_SECRET.CONTENT)
              .from(SERVICE_SECRET)
              .where(SERVICE_SECRET.NAME.eq(name))
              .fetchSingle(SERVICE_SECRET.CONTENT);
        });
  }
}
