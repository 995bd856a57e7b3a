package org.vinecellar.e2e;

import com.sun.tools.attach.VirtualMachine;
import java.io.IOException;
import java.io.InputStream;
import java.io.OutputStream;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.ArrayList;
import java.util.List;
import java.util.jar.Attributes;
import java.util.jar.JarEntry;
import java.util.jar.JarOutputStream;
import java.util.jar.Manifest;

/** Goes into another Java process and takes all of its heap, as a fault of its own would. */
public final class Hoarder {
  private Hoarder() {}

  /** Called in the other process. */
  public static void agentmain(String arguments) {
    List<byte[]> hoard = new ArrayList<>();
    while (true) {
      hoard.add(new byte[1 << 20]);
    }
  }

  /** Lets the process run out of memory. */
  static void fill(long pid) throws Exception {
    VirtualMachine process = VirtualMachine.attach(Long.toString(pid));
    try {
      process.loadAgent(jar().toString());
    } catch (IOException e) {
      // It ended while it was asked.
    }
  }

  private static Path jar() throws IOException {
    Manifest manifest = new Manifest();
    manifest.getMainAttributes().put(Attributes.Name.MANIFEST_VERSION, "1.0");
    manifest.getMainAttributes().put(new Attributes.Name("Agent-Class"), Hoarder.class.getName());
    String entry = Hoarder.class.getName().replace('.', '/') + ".class";
    Path jar = Files.createTempFile("hoarder", ".jar");
    try (OutputStream out = Files.newOutputStream(jar);
        JarOutputStream zip = new JarOutputStream(out, manifest);
        InputStream in = Hoarder.class.getClassLoader().getResourceAsStream(entry)) {
      zip.putNextEntry(new JarEntry(entry));
      in.transferTo(zip);
    }
    return jar;
  }
}
