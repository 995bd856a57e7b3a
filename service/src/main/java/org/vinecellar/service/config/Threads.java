package org.vinecellar.service.config;

import java.util.concurrent.BlockingQueue;
import java.util.concurrent.ThreadPoolExecutor;
import java.util.concurrent.TimeUnit;
import java.util.concurrent.atomic.AtomicInteger;

/** Threads of a name, which come when they are wanted and go when they are not. */
public final class Threads {
  private Threads() {}

  /**
   * @param name of each, before its number
   * @param count so many at most
   * @param queue what waits for them
   */
  public static ThreadPoolExecutor some(String name, int count, BlockingQueue<Runnable> queue) {
    AtomicInteger number = new AtomicInteger();
    ThreadPoolExecutor threads =
        new ThreadPoolExecutor(
            count,
            count,
            30,
            TimeUnit.SECONDS,
            queue,
            work -> {
              Thread thread = new Thread(work, name + "-" + number.incrementAndGet());
              thread.setDaemon(true);
              return thread;
            });
    threads.allowCoreThreadTimeOut(true);
    return threads;
  }
}
