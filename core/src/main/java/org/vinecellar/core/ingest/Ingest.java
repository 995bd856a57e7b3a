package org.vinecellar.core.ingest;

import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.StandardCharsets;
import java.security.MessageDigest;
import java.time.Instant;
import java.time.InstantSource;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.vinecellar.core.attachments.AttachmentFiles;
import org.vinecellar.core.bundles.NewBundle;
import org.vinecellar.core.contents.Sha256;
import org.vinecellar.core.formats.ReadLimits;
import org.vinecellar.core.problem.CellarException;
import org.vinecellar.core.problem.ProblemCode;
import org.vinecellar.core.runs.Job;

/** Takes in an upload from its files to its receipt. Thread-safe. */
public final class Ingest {
  /** As often as the run that a part belongs to may turn out to be another one. */
  private static final int TRIES = 20;

  private final IngestStore store;
  private final ReadLimits limits;
  private final InstantSource clock;

  /**
   * @param clock tells when uploads arrive
   */
  public Ingest(IngestStore store, ReadLimits limits, InstantSource clock) {
    this.store = store;
    this.limits = limits;
    this.clock = clock;
  }

  /**
   * Reads and keeps an upload, all or nothing. Sending the same files to the same run again changes
   * nothing. Without a run key, the same files with the same commit and build are the same run.
   *
   * @throws UnreadableUploadException when a file cannot be read
   * @throws CellarException {@code TOO_LARGE} for too many files; {@code NO_TESTS} when no file
   *     holds a test, {@code SAME_FILES} when another run of the stream has them, and the request
   *     does not allow that
   */
  public Receipt receive(UploadRequest request, List<? extends SourceFile> files) {
    return receive(request, files, List.of(), null);
  }

  /**
   * The same with files that results name, or that are named after tests, and a bundle.
   *
   * @param beside under the paths that their sender gave
   * @param bundle kept as one with the results; not at all when the receipt says that these were
   *     there before. Null for none
   */
  public Receipt receive(
      UploadRequest request,
      List<? extends SourceFile> files,
      List<? extends SourceFile> beside,
      @Nullable NewBundle bundle) {
    if (files.size() > UploadRequest.MAX_FILES || beside.size() > UploadRequest.MAX_FILES) {
      throw new CellarException(
          ProblemCode.TOO_LARGE,
          Math.max(files.size(), beside.size())
              + " files are more than one upload takes ("
              + UploadRequest.MAX_FILES
              + "); send them in parts of one run (--run KEY)");
    }
    Instant at = request.when().at();
    if (at != null && !PartTimes.isPossible(at, clock.instant())) {
      throw new CellarException(
          ProblemCode.INVALID_VALUE, "at is " + at + ", which is in the future; nothing was kept");
    }
    List<String> contents = contents(files);
    String content = content(contents, request);
    UploadRequest.PartKey part = request.target().part();
    if (!part.paths().isNone()) {
      List<String> names = files.stream().map(SourceFile::name).toList();
      boolean wrong = request.job() != null && request.job().wentWrong();
      // A job that died leaves fewer files than it would, or none.
      if (!wrong && !request.allowed().empty()) {
        part.paths().check(names);
      }
      content = hash(content, names.stream().map(part.paths()::of).toList().toString());
    }
    String variant = part.variant().isNone() ? null : part.variant().key().toString();
    // Without a key it is one upload, however often its job is tried again.
    String attempt =
        part.attempt() == null || request.target().runKey() == null
            ? null
            : part.attempt().toString();
    String runKey =
        request.target().runKey() != null
            ? "key:" + request.target().runKey()
            : "content:"
                + hash(
                    content,
                    request.origin().commit(),
                    request.origin().buildUrl(),
                    part.name(),
                    variant);
    // Two parts may well hold the same: files without times, of two variants.
    String contentHash = hash(content, part.name(), variant, attempt);
    RunChoice.Coming coming = RunChoice.Coming.unread(request, clock.instant());
    OtherRunException other = null;
    for (int tries = 0; tries < TRIES; tries++) {
      IngestStore.Reservation place = store.reserve(request, runKey, contentHash, coming);
      if (place.duplicate() != null) {
        return place.duplicate();
      }
      try {
        return keep(request, place, files, contents, beside, bundle);
      } catch (OtherRunException e) {
        other = e;
        coming = coming.told(e.began());
      }
    }
    throw new IllegalStateException("the runs of a key change all the time", other);
  }

  /**
   * What tells an upload from others. The same files are something else when their job failed after
   * all; without files only the job tells, and when it began.
   */
  private static String content(List<String> files, UploadRequest request) {
    Job job = request.job();
    String own = hash(files.toArray(String[]::new));
    if (job == null || (!files.isEmpty() && !job.wentWrong())) {
      return own;
    }
    Instant made = request.when().made();
    return files.isEmpty()
        ? hash(own, job.toString(), made == null ? null : made.toString())
        : hash(own, job.status().word());
  }

  private Receipt keep(
      UploadRequest request,
      IngestStore.Reservation place,
      List<? extends SourceFile> files,
      List<String> contents,
      List<? extends SourceFile> beside,
      @Nullable NewBundle bundle) {
    AttachmentFiles<SourceFile> attachments = new AttachmentFiles<>();
    beside.forEach(file -> attachments.add(file.name(), file));
    try (UploadWriter writer = store.write(place, attachments)) {
      UploadReport report =
          UploadReader.read(
              files,
              limits,
              new UploadReader.Hints(
                  request.columns(),
                  request.target().part().variant(),
                  request.target().part().paths(),
                  request.job(),
                  clock.instant()),
              attachments,
              writer);
      if (!report.unreadable().isEmpty()) {
        throw new UnreadableUploadException(report);
      }
      boolean nothing = report.total().isNothing() && report.total().setUps() == 0;
      if (nothing && !request.allowed().empty()) {
        throw new CellarException(
            ProblemCode.NO_TESTS,
            "the "
                + (files.size() == 1 ? "file holds" : files.size() + " files hold")
                + " no test. If that is as it should be, allow it (--allow-empty)");
      }
      writer.keepRaw(files, contents);
      if (bundle != null) {
        writer.keepBundle(bundle);
      }
      return writer.commit(request, report, clock.instant());
    }
  }

  /** SHA-256 of the unpacked content of each file with its length; names do not count. */
  private static List<String> contents(List<? extends SourceFile> files) {
    List<String> contents = new ArrayList<>();
    byte[] buffer = new byte[1 << 16];
    for (SourceFile file : files) {
      MessageDigest sha256 = Sha256.start();
      long length = 0;
      try (InputStream raw = file.open();
          InputStream content = org.vinecellar.core.formats.Formats.unpacked(raw)) {
        int n = content.read(buffer);
        while (n >= 0) {
          sha256.update(buffer, 0, n);
          length += n;
          n = content.read(buffer);
        }
      } catch (java.util.zip.ZipException | java.io.EOFException e) {
        // The reader says what is wrong with it; here it only needs to differ.
        length = -1;
      } catch (org.vinecellar.core.formats.UnreadableFileException e) {
        length = -2;
      } catch (IOException e) {
        throw new CellarException(
            ProblemCode.INTERNAL, "the file " + file.name() + " could not be read: " + e, e);
      }
      sha256.update((byte) '\n');
      sha256.update(Long.toString(length).getBytes(StandardCharsets.US_ASCII));
      contents.add(Sha256.hex(sha256));
    }
    return contents;
  }

  private static String hash(@Nullable String... parts) {
    MessageDigest sha256 = Sha256.start();
    for (String part : parts) {
      sha256.update((part == null ? "" : part).getBytes(StandardCharsets.UTF_8));
      sha256.update((byte) 0);
    }
    return Sha256.hex(sha256);
  }
}
