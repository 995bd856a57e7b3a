package org.vinecellar.service.guard;

import java.time.Duration;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicBoolean;
import java.util.concurrent.atomic.AtomicInteger;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.problem.TryLaterException;

/** Counts who is inside, in all and by address, and lets in no more than so many. Thread-safe. */
public final class Crowd {
  private static final Duration LATER = Duration.ofSeconds(2);

  private final String what;
  private final int most;
  private final int mostOfAddress;
  private final AtomicInteger all = new AtomicInteger();
  private final ConcurrentHashMap<String, Integer> byAddress = new ConcurrentHashMap<>();

  /**
   * @param what is counted, for the message: “uploads that are being sent”
   */
  public Crowd(String what, int most, int mostOfAddress) {
    this.what = what;
    this.most = most;
    this.mostOfAddress = mostOfAddress;
  }

  /** Somebody who is inside, until they leave; leaving twice is leaving once. */
  public final class Place {
    private final String address;
    private final AtomicBoolean left = new AtomicBoolean();

    private Place(String address) {
      this.address = address;
    }

    /** Makes room. */
    public void leave() {
      if (left.compareAndSet(false, true)) {
        all.decrementAndGet();
        byAddress.computeIfPresent(address, (key, n) -> n == 1 ? null : n - 1);
      }
    }
  }

  /**
   * Lets somebody in.
   *
   * @param address as {@link Addresses} groups them
   * @throws TryLaterException {@code TOO_MANY_AT_ONCE}
   */
  public Place enter(String address) {
    if (byAddress.merge(address, 1, Integer::sum) > mostOfAddress) {
      byAddress.computeIfPresent(address, (key, n) -> n == 1 ? null : n - 1);
      throw full(mostOfAddress + " " + what + " from one address");
    }
    if (all.incrementAndGet() > most) {
      all.decrementAndGet();
      byAddress.computeIfPresent(address, (key, n) -> n == 1 ? null : n - 1);
      throw full(most + " " + what);
    }
    return new Place(address);
  }

  /** How many are inside. */
  public int size() {
    return all.get();
  }

  private static TryLaterException full(String how) {
    return new TryLaterException(
        ProblemCode.TOO_MANY_AT_ONCE,
        "there are " + how + " already, which is the most at a time; try again in a moment",
        LATER);
  }
}
