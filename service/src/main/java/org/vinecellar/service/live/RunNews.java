package org.vinecellar.service.live;

import io.quarkus.runtime.ShutdownEvent;
import io.quarkus.runtime.StartupEvent;
import io.smallrye.mutiny.Multi;
import io.smallrye.mutiny.operators.multi.processors.BroadcastProcessor;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import org.jboss.logging.Logger;
import org.vinecellar.core.runs.RunEvents;

/** One listener for this instance, and all who watch. */
@Singleton
public class RunNews {
  private static final Logger LOG = Logger.getLogger(RunNews.class);
  private static final String RUN = "run";
  private static final long PAUSE_MS = 1_000;

  private final RunEvents events;
  private final BroadcastProcessor<News> watchers = BroadcastProcessor.create();
  private volatile boolean wanted;

  private final RunEvents.Listener told =
      new RunEvents.Listener() {
        @Override
        public void changed(int projectId, long runId) {
          watchers.onNext(new News(projectId, RUN, runId));
        }

        @Override
        public void decided(int projectId, long group) {
          watchers.onNext(new News(projectId, "group", group));
        }
      };

  /**
   * Something has changed; with number 0, anything may have.
   *
   * @param event of what: run or group
   */
  record News(int projectId, String event, long id) {}

  RunNews(RunEvents events) {
    this.events = events;
  }

  void start(@Observes StartupEvent event) {
    wanted = true;
    Thread thread = new Thread(this::listen, "run-news");
    thread.setDaemon(true);
    thread.start();
  }

  void stop(@Observes ShutdownEvent event) {
    wanted = false;
  }

  private void listen() {
    while (wanted) {
      try {
        // What happened while nobody listened is not told: everybody looks once.
        watchers.onNext(new News(0, RUN, 0));
        events.listen(() -> wanted, told);
      } catch (RuntimeException e) {
        LOG.warnf("news of runs stopped coming, listening again: %s", e.getMessage());
        pause();
      }
    }
  }

  private static void pause() {
    try {
      Thread.sleep(PAUSE_MS);
    } catch (InterruptedException e) {
      Thread.currentThread().interrupt();
    }
  }

  /** News of one project from now on; a slow watcher misses some, never all. */
  Multi<News> of(int projectId) {
    return watchers
        .filter(news -> news.projectId() == projectId || news.projectId() == 0)
        .onOverflow()
        .dropPreviousItems();
  }
}
