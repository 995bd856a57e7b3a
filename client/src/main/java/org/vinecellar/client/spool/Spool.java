package org.vinecellar.client.spool;

import com.fasterxml.jackson.core.JsonProcessingException;
import com.fasterxml.jackson.databind.JsonNode;
import com.fasterxml.jackson.databind.ObjectMapper;
import com.fasterxml.jackson.databind.node.ArrayNode;
import com.fasterxml.jackson.databind.node.ObjectNode;
import java.io.IOException;
import java.nio.channels.FileChannel;
import java.nio.channels.FileLock;
import java.nio.file.Files;
import java.nio.file.LinkOption;
import java.nio.file.Path;
import java.nio.file.StandardCopyOption;
import java.nio.file.StandardOpenOption;
import java.time.Instant;
import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.UUID;
import java.util.regex.Pattern;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import org.vinecellar.client.http.UploadForm;

/**
 * A directory of uploads that could not be sent. Each is a directory of its own, with its fields in
 * {@code upload.json} and copies of its files; it gets its name only when it is whole. Names begin
 * with the time, so that they sort in the order in which they were made.
 */
public final class Spool {
  /** Made when something waits, which is seldom. */
  private static final class Json {
    static final ObjectMapper MAPPER = new ObjectMapper();
  }

  private static final String DESCRIPTION = "upload.json";
  private static final String REFUSED = "refused";
  private static final Pattern MILLIS = Pattern.compile("[0-9]{13}");
  private static final Pattern COPY = Pattern.compile("[0-9]{1,6}");

  private final Path directory;

  /** In that directory, which is made when it is needed. */
  public Spool(Path directory) {
    this.directory = directory;
  }

  /** Where it is when nobody says: by the XDG Base Directory Specification, state of the user. */
  public static Path usual(Map<String, String> environment) {
    String state = environment.get("XDG_STATE_HOME");
    String home = environment.getOrDefault("HOME", System.getProperty("user.home"));
    Path base =
        state == null || state.isBlank() ? Path.of(home, ".local", "state") : Path.of(state);
    return base.resolve("vine").resolve("spool");
  }

  public Path directory() {
    return directory;
  }

  /** An upload that waits. */
  public record Entry(
      Path path,
      String url,
      String project,
      List<Map.Entry<String, String>> fields,
      List<UploadForm.FilePart> files) {
    /** Copies the lists. */
    public Entry {
      fields = List.copyOf(fields);
      files = List.copyOf(files);
    }

    /** When it was made; the beginning of time when its directory does not say. */
    public Instant made() {
      String name = path.getFileName().toString();
      String millis = name.substring(0, Math.max(0, name.indexOf('-')));
      return Instant.ofEpochMilli(MILLIS.matcher(millis).matches() ? Long.parseLong(millis) : 0);
    }

    /** How large its files are together. */
    public long bytes() throws IOException {
      long bytes = 0;
      for (UploadForm.FilePart file : files) {
        bytes += Files.size(file.path());
      }
      return bytes;
    }

    /** The stream that it is for. */
    public String stream() {
      return fields.stream()
          .filter(field -> field.getKey().equals("stream"))
          .map(Map.Entry::getValue)
          .findFirst()
          .orElse("");
    }
  }

  /**
   * Keeps an upload. When this returns, it is whole on the disk.
   *
   * @param now when it was made; the time of its run, unless its fields tell one
   */
  public Entry add(
      String url,
      String project,
      List<Map.Entry<String, String>> fields,
      List<UploadForm.FilePart> files,
      Instant now)
      throws IOException {
    Files.createDirectories(directory);
    String name = String.format("%013d-%s", now.toEpochMilli(), UUID.randomUUID());
    Path draft = Files.createDirectory(directory.resolve(".draft-" + name));
    for (int i = 0; i < files.size(); i++) {
      Path copy = draft.resolve(Integer.toString(i));
      Files.copy(files.get(i).path(), copy);
      force(copy);
    }
    describe(draft, url, project, fields, files, now);
    Path whole = Files.move(draft, directory.resolve(name), StandardCopyOption.ATOMIC_MOVE);
    return read(whole);
  }

  /** Writes what an upload is. The content of its files is there under their numbers. */
  static void describe(
      Path upload,
      String url,
      String project,
      List<Map.Entry<String, String>> fields,
      List<UploadForm.FilePart> files,
      Instant now)
      throws IOException {
    List<Map.Entry<String, String>> all = new ArrayList<>(fields);
    if (all.stream().noneMatch(field -> Set.of("at", "made").contains(field.getKey()))) {
      all.add(Map.entry("made", now.toString()));
    }
    ObjectNode description = Json.MAPPER.createObjectNode();
    description.put("version", 1).put("url", url).put("project", project);
    ArrayNode told = description.putArray("fields");
    all.forEach(field -> told.addArray().add(field.getKey()).add(field.getValue()));
    ArrayNode kept = description.putArray("files");
    for (int i = 0; i < files.size(); i++) {
      UploadForm.FilePart file = files.get(i);
      kept.addObject()
          .put("field", file.field())
          .put("name", file.name())
          .put("content", Integer.toString(i));
    }
    Path written = upload.resolve(DESCRIPTION + ".new");
    Files.writeString(written, Json.MAPPER.writeValueAsString(description));
    force(written);
    Path unused = Files.move(written, upload.resolve(DESCRIPTION), StandardCopyOption.ATOMIC_MOVE);
  }

  /** An upload that is still being written, by a process that may end at any time. */
  public Draft draft(
      String url,
      String project,
      List<Map.Entry<String, String>> fields,
      String fileName,
      Instant now)
      throws IOException {
    Files.createDirectories(directory);
    return Draft.begin(directory, url, project, fields, fileName, now);
  }

  /**
   * Makes uploads that wait of those whose process ended before it had sent them.
   *
   * @return how many
   */
  public int adopt() throws IOException {
    if (!Files.isDirectory(directory)) {
      return 0;
    }
    int adopted = 0;
    try (Stream<Path> all = Files.list(directory)) {
      for (Path path : all.filter(Draft::isDraft).sorted().toList()) {
        adopted += Draft.adopt(path) ? 1 : 0;
      }
    }
    return adopted;
  }

  static void force(Path file) throws IOException {
    try (FileChannel channel = FileChannel.open(file, StandardOpenOption.WRITE)) {
      channel.force(true);
    }
  }

  /** The directories of the uploads that wait, in order. */
  public List<Path> waiting() throws IOException {
    if (!Files.isDirectory(directory)) {
      return List.of();
    }
    try (Stream<Path> all = Files.list(directory)) {
      return all.filter(path -> Files.isRegularFile(path.resolve(DESCRIPTION)))
          .filter(path -> !path.getFileName().toString().startsWith("."))
          .sorted()
          .toList();
    }
  }

  /**
   * Reads one that waits. Believes nothing: a spool may lie in a repository, and come with it.
   *
   * @throws DamagedException when it is not as {@link #add} made it
   */
  public static Entry read(Path path) throws IOException {
    JsonNode description;
    try {
      description = Json.MAPPER.readTree(own(path, DESCRIPTION).toFile());
    } catch (JsonProcessingException e) {
      throw damaged(path, DESCRIPTION + " is not JSON");
    }
    if (!description.path("fields").isArray() || !description.path("files").isArray()) {
      throw damaged(path, DESCRIPTION + " lists no fields and files");
    }
    List<Map.Entry<String, String>> fields = new ArrayList<>();
    description
        .path("fields")
        .forEach(field -> fields.add(Map.entry(field.path(0).asText(), field.path(1).asText())));
    List<UploadForm.FilePart> files = new ArrayList<>();
    for (JsonNode file : description.path("files")) {
      files.add(
          new UploadForm.FilePart(
              file.path("field").asText(),
              own(path, file.path("content").asText()),
              file.path("name").asText()));
    }
    return new Entry(
        path,
        description.path("url").asText(),
        description.path("project").asText(),
        fields,
        files);
  }

  /** A file that lies in the upload's own directory, and is no link to another. */
  private static Path own(Path upload, String name) throws IOException {
    boolean mine =
        (name.equals(DESCRIPTION) || COPY.matcher(name).matches())
            && Files.isDirectory(upload, LinkOption.NOFOLLOW_LINKS)
            && Files.isRegularFile(upload.resolve(name), LinkOption.NOFOLLOW_LINKS);
    if (!mine) {
      throw damaged(upload, "“" + name + "” is no file of its own");
    }
    return upload.resolve(name);
  }

  private static DamagedException damaged(Path upload, String how) {
    return new DamagedException("the upload that waited in " + upload + " is damaged: " + how);
  }

  /** An upload that cannot be sent as it lies there. */
  public static final class DamagedException extends IOException {
    private static final long serialVersionUID = 1L;

    DamagedException(String message) {
      super(message);
    }
  }

  /** Takes out an upload that was acknowledged. */
  public void remove(Entry entry) throws IOException {
    // First the name, so that a half removed one is never taken for a whole one.
    Path going = entry.path().resolveSibling(".gone-" + entry.path().getFileName());
    Files.move(entry.path(), going, StandardCopyOption.ATOMIC_MOVE);
    delete(going);
  }

  static void delete(Path tree) throws IOException {
    try (Stream<Path> all = Files.walk(tree)) {
      for (Path path : all.sorted(Comparator.reverseOrder()).toList()) {
        Files.delete(path);
      }
    }
  }

  /** Puts aside an upload that cannot be sent, with the reason; nothing is thrown away. */
  public Path setAside(Path upload, String reason) throws IOException {
    Path refused = directory.resolve(REFUSED);
    if (!Files.isDirectory(refused, LinkOption.NOFOLLOW_LINKS)) {
      Files.createDirectory(refused);
    }
    Path aside =
        Files.move(upload, refused.resolve(upload.getFileName()), StandardCopyOption.ATOMIC_MOVE);
    Files.writeString(
        refused.resolve(aside.getFileName() + ".reason.txt"),
        reason + "\n",
        StandardOpenOption.CREATE_NEW);
    return aside;
  }

  /** The right to send what waits; null when another process has it. Closing gives it back. */
  public @Nullable Turn turn() throws IOException {
    Files.createDirectories(directory);
    FileChannel channel =
        FileChannel.open(
            directory.resolve(".lock"), StandardOpenOption.CREATE, StandardOpenOption.WRITE);
    FileLock lock = channel.tryLock();
    if (lock == null) {
      channel.close();
      return null;
    }
    return new Turn(channel);
  }

  /** Held while the spool is being sent. */
  public record Turn(FileChannel channel) implements AutoCloseable {
    @Override
    public void close() throws IOException {
      channel.close();
    }
  }
}
