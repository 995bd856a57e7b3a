package org.vinecellar.core.trust.flaky;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.List;
import org.jspecify.annotations.Nullable;

/** A belief as the bytes in which it is kept. */
final class BeliefBytes {
  /** The first of them. */
  private static final int FORM = 3;

  private BeliefBytes() {}

  static Belief read(byte[] bytes) {
    try (DataInputStream in = new DataInputStream(new ByteArrayInputStream(bytes))) {
      if (in.readUnsignedByte() != FORM) {
        throw new IllegalArgumentException("kept by another version");
      }
      int runs = in.readInt();
      int ofCommit = in.readInt();
      String commit = text(in);
      List<String> environments = new ArrayList<>();
      for (int i = in.readUnsignedByte(); i > 0; i--) {
        environments.add(in.readUTF());
      }
      float[] weights = floats(in, States.places(environments.size()));
      Beside beside = null;
      if (in.readBoolean()) {
        beside = new Beside(in.readUTF(), text(in), floats(in, weights.length));
      }
      Branches branches = new Branches(in.readFloat(), in.readFloat());
      return new Belief(
          List.copyOf(environments), weights, beside, branches, commit, ofCommit, runs);
    } catch (IOException e) {
      throw new IllegalArgumentException("a belief is cut off", e);
    }
  }

  static byte[] write(
      List<String> environments,
      float[] weights,
      @Nullable Beside beside,
      Branches branches,
      @Nullable String commit,
      int ofCommit,
      int runs) {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (DataOutputStream out = new DataOutputStream(bytes)) {
      out.writeByte(FORM);
      out.writeInt(runs);
      out.writeInt(ofCommit);
      write(out, commit);
      out.writeByte(environments.size());
      for (String environment : environments) {
        out.writeUTF(environment);
      }
      write(out, weights);
      out.writeBoolean(beside != null);
      if (beside != null) {
        out.writeUTF(beside.branch());
        write(out, beside.commit());
        write(out, beside.broken());
      }
      out.writeFloat(branches.left());
      out.writeFloat(branches.broken());
    } catch (IOException e) {
      throw new UncheckedIOException(e);
    }
    return bytes.toByteArray();
  }

  private static void write(DataOutputStream out, @Nullable String text) throws IOException {
    out.writeBoolean(text != null);
    if (text != null) {
      out.writeUTF(text);
    }
  }

  private static @Nullable String text(DataInputStream in) throws IOException {
    return in.readBoolean() ? in.readUTF() : null;
  }

  private static void write(DataOutputStream out, float[] numbers) throws IOException {
    ByteBuffer bytes = ByteBuffer.allocate(numbers.length * Float.BYTES);
    bytes.asFloatBuffer().put(numbers);
    out.write(bytes.array());
  }

  private static float[] floats(DataInputStream in, int count) throws IOException {
    float[] numbers = new float[count];
    byte[] bytes = new byte[count * Float.BYTES];
    in.readFully(bytes);
    ByteBuffer.wrap(bytes).asFloatBuffer().get(numbers);
    return numbers;
  }
}
