package org.vinecellar.service.ingest;

import jakarta.inject.Singleton;
import java.util.concurrent.Semaphore;
import java.util.concurrent.TimeUnit;
import java.util.function.Supplier;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.service.config.VineConfig;

/** Lets a few uploads through at a time, so that a hundred at once fit in the memory there is. */
@Singleton
public class UploadGate {
  private static final int WAIT_SECONDS = 300;

  private final Semaphore places;

  UploadGate(VineConfig config) {
    places = new Semaphore(config.upload().concurrent(), true);
  }

  <T> T pass(Supplier<T> work) {
    try {
      if (!places.tryAcquire(WAIT_SECONDS, TimeUnit.SECONDS)) {
        throw busy(null);
      }
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
      throw busy(e);
    }
    try {
      return work.get();
    } finally {
      places.release();
    }
  }

  private static CellarException busy(
      @org.jspecify.annotations.Nullable InterruptedException cause) {
    return new CellarException(
        ProblemCode.UNAVAILABLE, "too many uploads are waiting; send it again in a moment", cause);
  }
}
