package org.vinecellar.service.operate;

import io.quarkus.runtime.StartupEvent;
import jakarta.enterprise.event.Observes;
import jakarta.inject.Singleton;
import jakarta.ws.rs.GET;
import jakarta.ws.rs.Path;
import jakarta.ws.rs.Produces;
import jakarta.ws.rs.core.MediaType;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Locale;
import org.eclipse.microprofile.openapi.annotations.Operation;
import org.eclipse.microprofile.openapi.annotations.media.Schema;
import org.eclipse.microprofile.openapi.annotations.tags.Tag;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.operate.DatabaseWatch;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.work.SumProof;
import org.vinecellar.core.work.Waiting;
import org.vinecellar.service.access.Caller;
import org.vinecellar.service.door.Bodies;
import org.vinecellar.service.door.FrontDoor;
import org.vinecellar.service.guard.Disk;
import org.vinecellar.service.guard.Lines;
import org.vinecellar.service.guard.Refusals;
import org.vinecellar.service.guard.Room;
import org.vinecellar.service.guard.Rooms;
import org.vinecellar.service.ingest.UploadLanes;
import org.vinecellar.service.live.NewsResource;
import org.vinecellar.service.web.Downloads;
import org.vinecellar.service.work.Worker;

/** How the portal is; for its administrators. */
@Path("/api/v1/operations")
@Tag(name = "operate")
@Produces(MediaType.APPLICATION_JSON)
@Singleton
public class OperationsResource {
  private final Caller caller;
  private final Watchman watchman;
  private final DatabaseWatch database;
  private final Disk disk;
  private final Refusals refusals;
  private final Rooms rooms;
  private final UploadLanes lanes;
  private final Lines lines;
  private final Bodies bodies;
  private final FrontDoor door;
  private final Downloads downloads;
  private final NewsResource news;
  private final Worker worker;
  private final InstantSource clock;
  private volatile Instant startedAt;

  OperationsResource(
      Caller caller,
      Watchman watchman,
      DatabaseWatch database,
      Disk disk,
      Refusals refusals,
      Rooms rooms,
      UploadLanes lanes,
      Lines lines,
      Bodies bodies,
      FrontDoor door,
      Downloads downloads,
      NewsResource news,
      Worker worker,
      InstantSource clock) {
    this.caller = caller;
    this.watchman = watchman;
    this.database = database;
    this.disk = disk;
    this.refusals = refusals;
    this.rooms = rooms;
    this.lanes = lanes;
    this.lines = lines;
    this.bodies = bodies;
    this.door = door;
    this.downloads = downloads;
    this.news = news;
    this.worker = worker;
    this.clock = clock;
    this.startedAt = clock.instant();
  }

  void started(@Observes StartupEvent event) {
    startedAt = clock.instant();
  }

  /** The service's own process. */
  @Schema(name = "ServiceState")
  public record ServiceBody(
      String version,
      String java,
      Instant startedAt,
      long heapUsed,
      long heapMost,
      int processors) {}

  /** Something that has places, some of them taken. */
  @Schema(name = "PlaceState")
  public record PlacesBody(String what, int working, int waiting) {}

  /** What was refused since the start. */
  @Schema(name = "RefusalState")
  public record RefusalBody(String code, String title, long times, Instant last, String detail) {}

  /** Something that went wrong inside. */
  @Schema(name = "FaultState")
  public record FaultBody(Instant at, String detail) {}

  /** Room on a disk. */
  @Schema(name = "DiskState")
  public record DiskBody(String what, long free, long reserve) {}

  /** A table with its indexes. */
  @Schema(name = "TableState")
  public record TableBody(String name, long bytes, long rows) {}

  /**
   * The database.
   *
   * @param says why it does not answer; null when it does
   */
  @Schema(name = "DatabaseState")
  public record DatabaseBody(
      @Schema(nullable = true) @Nullable String says,
      @Schema(nullable = true) @Nullable String version,
      @Schema(nullable = true) @Nullable String schema,
      long bytes,
      int connections,
      int maxConnections,
      boolean superuser,
      List<TableBody> largest) {}

  /**
   * Work that follows what changed, of all instances.
   *
   * @param failed of what waits, what was tried in vain
   * @param repairs how often sums of a run were found to be wrong, and put right
   * @param lastRepair when they last were
   * @param repaired what that was
   */
  @Schema(name = "WorkState")
  public record WorkBody(
      int waiting,
      int failed,
      @Schema(nullable = true) @Nullable Instant oldest,
      @Schema(nullable = true) @Nullable String lastError,
      long repairs,
      @Schema(nullable = true) @Nullable Instant lastRepair,
      @Schema(nullable = true) @Nullable String repaired) {}

  /** All of it. */
  @Schema(name = "Operations")
  public record OperationsBody(
      ServiceBody service,
      List<PlacesBody> places,
      long longestWaitSeconds,
      boolean uploadsRefused,
      List<DiskBody> disks,
      DatabaseBody database,
      WorkBody work,
      List<RefusalBody> refusals,
      List<FaultBody> faults) {}

  @GET
  @Operation(
      operationId = "getOperations",
      summary = "What runs, what waits, what was refused, sizes and versions, of this instance")
  public OperationsBody get() {
    caller.administrator();
    UploadLanes.State uploads = lanes.state();
    return new OperationsBody(
        service(),
        places(uploads),
        uploads.longestWaitSeconds(),
        watchman.seen().diskFull(),
        disk.free().entrySet().stream()
            .map(one -> new DiskBody(one.getKey(), one.getValue(), disk.reserve()))
            .toList(),
        database(),
        work(),
        refusals.counts().stream()
            .map(
                c ->
                    new RefusalBody(
                        c.code().slug(), c.code().title(), c.times(), c.last(), c.detail()))
            .toList(),
        refusals.faults().stream().map(f -> new FaultBody(f.at(), f.detail())).toList());
  }

  private WorkBody work() {
    Waiting waiting = worker.waiting();
    SumProof.Repairs repairs = worker.repairs();
    return new WorkBody(
        waiting.pieces(),
        waiting.failed(),
        waiting.oldest(),
        waiting.lastError(),
        repairs.times(),
        repairs.last(),
        repairs.said());
  }

  private ServiceBody service() {
    Runtime runtime = Runtime.getRuntime();
    String version = OperationsResource.class.getPackage().getImplementationVersion();
    return new ServiceBody(
        version == null ? "0.1.0" : version,
        String.valueOf(System.getProperty("java.version")),
        startedAt,
        runtime.totalMemory() - runtime.freeMemory(),
        runtime.maxMemory(),
        runtime.availableProcessors());
  }

  private List<PlacesBody> places(UploadLanes.State uploads) {
    List<PlacesBody> places =
        new ArrayList<>(
            List.of(
                new PlacesBody("uploads", uploads.working(), uploads.waiting()),
                new PlacesBody("connections", lines.size(), 0),
                new PlacesBody("bodies being sent", bodies.crowd().size(), 0),
                new PlacesBody("requests", door.size(), 0),
                new PlacesBody("downloads", downloads.size(), 0),
                new PlacesBody("watchers", news.size(), 0)));
    Arrays.stream(Room.values())
        .map(
            room ->
                new PlacesBody(
                    "threads: " + room.name().toLowerCase(Locale.ROOT),
                    rooms.state(room).working(),
                    rooms.state(room).waiting()))
        .forEach(places::add);
    return places;
  }

  private DatabaseBody database() {
    try {
      DatabaseWatch.Facts f = database.facts();
      return new DatabaseBody(
          null,
          f.version(),
          f.schema(),
          f.bytes(),
          f.connections(),
          f.maxConnections(),
          f.superuser(),
          f.largest().stream().map(t -> new TableBody(t.name(), t.bytes(), t.rows())).toList());
    } catch (CellarException e) {
      return new DatabaseBody(e.text(), null, null, 0, 0, 0, false, List.of());
    }
  }
}
