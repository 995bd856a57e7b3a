package org.vinecellar.core.trust.flaky;

import java.io.ByteArrayInputStream;
import java.io.ByteArrayOutputStream;
import java.io.DataInputStream;
import java.io.DataOutputStream;
import java.io.IOException;
import java.io.UncheckedIOException;
import java.nio.ByteBuffer;
import java.util.ArrayList;
import java.util.Arrays;
import java.util.List;
import java.util.Objects;
import org.jspecify.annotations.Nullable;

/**
 * What is believed of a test after some runs: a forward filter over what it may be. A test is
 * sound, broken, broken in one environment, flaky at some rate, or flaky in one environment. That
 * changes at commits, and only there; what one run tells is weighed by how likely each of them
 * would show it. A pure function of the runs in their order; immutable.
 *
 * <p>The numbers are those of a test that nobody knows anything about, set on simulated streams.
 * How often a sound test fails all the same, and how often a flaky one is steadied, weigh what is
 * found against who is accused; the others hardly matter within a factor of two.
 */
public final class Belief {
  /** In the first run. */
  private static final double FLAKY = 0.06;

  private static final double BROKEN = 0.01;

  /** In an environment that is seen for the first time, for a test that was sound in the others. */
  private static final double FLAKY_THERE = 0.01;

  private static final double BROKEN_THERE = 0.003;

  /** At each commit. */
  private static final double BREAKS = 0.0022;

  private static final double BREAKS_SOMEWHERE = 0.0005;
  private static final double TURNS_FLAKY = 0.001;
  private static final double TURNS_FLAKY_SOMEWHERE = 0.0001;
  private static final double BREAKS_AGAIN = 0.02;
  private static final double IS_PRONE_NO_MORE = 0.005;
  private static final double IS_MENDED = 0.12;
  private static final double IS_MENDED_HALF = 0.002;
  private static final double IS_STEADIED = 0.0037;
  private static final double FLAKY_BREAKS = 0.001;

  /** A sound test fails all the same, and a broken one passes. */
  private static final double ODD_FAILURE = 0.00009;

  private static final double ODD_PASS = 0.003;

  /** Of a test's environments so many are told apart; in others it is as it is everywhere. */
  private static final int ENVIRONMENTS = 8;

  /** More tries of one run tell no more than so many, of which the same share failed. */
  private static final double MOST_TRIES = 50;

  private static final int SOUND = 0;
  private static final int ALL_BROKEN = 1;

  /** Passes, and was broken before: what was mended once breaks again sooner than others. */
  private static final int PRONE = 2;

  private static final int ALL_FLAKY = 3;

  private static final double SURE = 0.5;

  /** Who is believed to be sound has shown more than one that is not known. */
  private static final double STEADY = 0.95;

  private static final Sight PASS = new Sight(null, "", 0, 1, 0);

  /** More passes in a row change nothing that could be seen. */
  private static final int MOST_PASSES = 500;

  /** Of the bytes in which it is kept. */
  private static final int FORM = 2;

  private final List<String> environments;
  private final float[] weights;
  private final @Nullable Beside beside;
  private final Branches branches;
  private final @Nullable String commit;
  private final int runs;

  private Belief(
      List<String> environments,
      float[] weights,
      @Nullable Beside beside,
      Branches branches,
      @Nullable String commit,
      int runs) {
    this.environments = environments;
    this.weights = weights;
    this.beside = beside;
    this.branches = branches;
    this.commit = commit;
    this.runs = runs;
  }

  /** Of a test that no run has had. */
  public static Belief start() {
    float[] weights = new float[ALL_FLAKY + Rates.STEPS];
    weights[SOUND] = (float) (1 - FLAKY - BROKEN);
    weights[ALL_BROKEN] = (float) BROKEN;
    spread(weights, ALL_FLAKY, FLAKY);
    return new Belief(List.of(), weights, null, Branches.NONE, null, 0);
  }

  /** Of a test that passed in so many runs, each of a commit of its own, and never failed. */
  public static Belief ofPasses(int runs) {
    Belief belief = Passes.AFTER.get(Math.min(runs, MOST_PASSES));
    return new Belief(belief.environments, belief.weights, null, Branches.NONE, null, runs);
  }

  /** Of so many tests the same is believed that it is worked out once. */
  private static final class Passes {
    static final List<Belief> AFTER = new ArrayList<>(List.of(start()));

    static {
      for (int i = 0; i < MOST_PASSES; i++) {
        AFTER.add(AFTER.get(i).after(PASS));
      }
    }
  }

  /**
   * What {@link #toBytes} made.
   *
   * @throws IllegalArgumentException when it is not that
   */
  public static Belief of(byte[] bytes) {
    try (DataInputStream in = new DataInputStream(new ByteArrayInputStream(bytes))) {
      if (in.readUnsignedByte() != FORM) {
        throw new IllegalArgumentException("kept by another version");
      }
      int runs = in.readInt();
      String commit = text(in);
      List<String> environments = new ArrayList<>();
      for (int i = in.readUnsignedByte(); i > 0; i--) {
        environments.add(in.readUTF());
      }
      float[] weights = floats(in, brokenIn(environments.size()));
      Beside beside = null;
      if (in.readBoolean()) {
        beside = new Beside(in.readUTF(), text(in), floats(in, weights.length));
      }
      Branches branches = new Branches(in.readFloat(), in.readFloat());
      return new Belief(List.copyOf(environments), weights, beside, branches, commit, runs);
    } catch (IOException e) {
      throw new IllegalArgumentException("a belief is cut off", e);
    }
  }

  /** All of it, to be kept; some hundred bytes. What is read again is the same. */
  public byte[] toBytes() {
    ByteArrayOutputStream bytes = new ByteArrayOutputStream();
    try (DataOutputStream out = new DataOutputStream(bytes)) {
      out.writeByte(FORM);
      out.writeInt(runs);
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

  /** With one more run, which began after those before. */
  public Belief after(Sight sight) {
    List<String> known = environments;
    float[] next = weights.clone();
    Beside side = beside;
    Branches left = branches;
    if (side != null && !side.branch().equals(sight.branch())) {
      left = left.and(sum(side.broken()));
      side.leave(next);
      side = null;
    }
    if (!known.contains(sight.environment()) && known.size() < ENVIRONMENTS) {
      known = new ArrayList<>(known);
      known.add(sight.environment());
      next = withOneMore(next, known.size());
      side = side == null ? null : side.wider(next.length);
    }
    String latest = commit;
    if (sight.branch() != null) {
      side = beside(next, left.breaks(), side, sight);
    } else {
      if (runs > 0 && (commit == null || !commit.equals(sight.commit()))) {
        next = changed(next, known.size());
      }
      latest = sight.commit();
    }
    int tells = sight.tells() ? 1 : 0;
    if (sight.tells()) {
      weigh(next, known.indexOf(sight.environment()), known.size(), sight);
      if (side != null) {
        times(side.broken(), likely(1 - ODD_PASS, sight));
      }
    }
    double sum = sum(next) + (side == null ? 0 : sum(side.broken()));
    times(next, 1 / sum);
    if (side != null) {
      times(side.broken(), 1 / sum);
    }
    return new Belief(List.copyOf(known), next, side, left, latest, runs + tells);
  }

  private static Beside beside(float[] next, double breaks, @Nullable Beside side, Sight sight) {
    String branch = Objects.requireNonNull(sight.branch());
    if (side == null) {
      return Beside.begun(next, breaks, branch, sight.commit());
    }
    boolean same = side.commit() != null && side.commit().equals(sight.commit());
    return same ? side.copy() : side.moved(next, breaks, sight.commit());
  }

  private static double sum(float[] weights) {
    double sum = 0;
    for (float weight : weights) {
      sum += weight;
    }
    return sum;
  }

  private static void times(float[] weights, double factor) {
    for (int i = 0; i < weights.length; i++) {
      weights[i] = (float) (weights[i] * factor);
    }
  }

  /** How likely it is each of what it may be, whatever a branch beside the main one does to it. */
  private float[] everywhere() {
    if (beside == null) {
      return weights;
    }
    float[] all = weights.clone();
    beside.leave(all);
    return all;
  }

  /** How many runs told of it. */
  public int runs() {
    return runs;
  }

  /** How likely it is flaky, from 0 to 1. */
  public double flaky() {
    float[] all = everywhere();
    double flaky = sum(all, ALL_FLAKY);
    for (int i = 0; i < environments.size(); i++) {
      flaky += sum(all, flakyIn(i));
    }
    return flaky;
  }

  /** How likely it is broken now, anywhere, from 0 to 1. */
  public double broken() {
    float[] all = everywhere();
    double broken = all[ALL_BROKEN];
    for (int i = 0; i < environments.size(); i++) {
      broken += all[brokenIn(i)];
    }
    return broken;
  }

  /** What it is taken for. */
  public Verdict verdict() {
    if (flaky() >= SURE) {
      return Verdict.FLAKY;
    }
    if (broken() >= SURE) {
      return Verdict.BROKEN;
    }
    return sound() >= STEADY ? Verdict.STEADY : Verdict.UNSURE;
  }

  /**
   * How many more runs in which it passes, each of a commit of its own, it takes until another
   * verdict is given.
   *
   * @return 0 when so many that they are not counted
   */
  public int cleanRunsLeft() {
    Verdict now = verdict();
    String where = onlyIn();
    List<String> ran = environments.isEmpty() ? List.of("") : environments;
    Belief next = this;
    for (int runs = 1; runs <= MOST_PASSES; runs++) {
      String environment = where == null ? ran.get(runs % ran.size()) : where;
      next = next.after(new Sight(null, environment, 0, 1, 0));
      if (next.verdict() != now) {
        return runs;
      }
    }
    return 0;
  }

  /** How likely it is neither flaky nor broken, from 0 to 1. */
  public double sound() {
    float[] all = everywhere();
    return all[SOUND] + all[PRONE];
  }

  /**
   * How often it fails by chance, if it is flaky: the rate below which so much lies of what is
   * believed.
   *
   * @param share from 0 to 1; 0.05 and 0.95 are the ends of an interval that has the true rate in
   *     nine of ten cases
   */
  public double rate(double share) {
    float[] may = everywhere();
    double[] masses = new double[Rates.STEPS];
    double all = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      masses[step] = may[ALL_FLAKY + step];
      for (int i = 0; i < environments.size(); i++) {
        masses[step] += may[flakyIn(i) + step];
      }
      all += masses[step];
    }
    double until = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      double begin = until;
      until += masses[step];
      if (until >= share * all) {
        double low = step == 0 ? Rates.at(0) : Rates.end(step - 1);
        double part = masses[step] == 0 ? 0 : (share * all - begin) / masses[step];
        return low * Math.pow(Rates.end(step) / low, part);
      }
    }
    return Rates.end(Rates.STEPS - 1);
  }

  /**
   * The environment in which alone it is flaky or broken, if that is likelier than everywhere.
   *
   * @return null when it is not, or when it is neither
   */
  public @Nullable String onlyIn() {
    if (flaky() + broken() < SURE || environments.size() < 2) {
      return null;
    }
    float[] all = everywhere();
    double most = sum(all, ALL_FLAKY) + all[ALL_BROKEN];
    String only = null;
    for (int i = 0; i < environments.size(); i++) {
      double there = sum(all, flakyIn(i)) + all[brokenIn(i)];
      if (there > most) {
        most = there;
        only = Objects.requireNonNull(environments.get(i));
      }
    }
    return only;
  }

  private static int brokenIn(int environment) {
    return ALL_FLAKY + Rates.STEPS + environment * (1 + Rates.STEPS);
  }

  private static int flakyIn(int environment) {
    return brokenIn(environment) + 1;
  }

  private static double sum(float[] weights, int from) {
    double sum = 0;
    for (int step = 0; step < Rates.STEPS; step++) {
      sum += weights[from + step];
    }
    return sum;
  }

  private static void spread(float[] weights, int from, double mass) {
    for (int step = 0; step < Rates.STEPS; step++) {
      weights[from + step] += mass / Rates.STEPS;
    }
  }

  private static float[] withOneMore(float[] before, int environments) {
    float[] weights = Arrays.copyOf(before, brokenIn(environments));
    double sound = before[SOUND];
    weights[SOUND] = (float) (sound * (1 - BROKEN_THERE - FLAKY_THERE));
    weights[brokenIn(environments - 1)] = (float) (sound * BROKEN_THERE);
    spread(weights, flakyIn(environments - 1), sound * FLAKY_THERE);
    return weights;
  }

  /** What it may be after a commit. */
  private static float[] changed(float[] before, int environments) {
    float[] weights = new float[before.length];
    double sound = before[SOUND];
    double leaves = BREAKS + TURNS_FLAKY;
    weights[ALL_BROKEN] += sound * BREAKS;
    spread(weights, ALL_FLAKY, sound * TURNS_FLAKY);
    for (int i = 0; i < environments; i++) {
      leaves += BREAKS_SOMEWHERE + TURNS_FLAKY_SOMEWHERE;
      weights[brokenIn(i)] += sound * BREAKS_SOMEWHERE;
      spread(weights, flakyIn(i), sound * TURNS_FLAKY_SOMEWHERE);
      stays(before, weights, brokenIn(i), IS_MENDED, 0);
      for (int step = 0; step < Rates.STEPS; step++) {
        stays(before, weights, flakyIn(i) + step, IS_STEADIED, 0);
      }
    }
    weights[SOUND] += sound * (1 - leaves);
    double prone = before[PRONE];
    weights[ALL_BROKEN] += prone * BREAKS_AGAIN;
    weights[SOUND] += prone * IS_PRONE_NO_MORE;
    spread(weights, ALL_FLAKY, prone * TURNS_FLAKY);
    weights[PRONE] += prone * (1 - BREAKS_AGAIN - IS_PRONE_NO_MORE - TURNS_FLAKY);
    weights[PRONE] += before[ALL_BROKEN] * IS_MENDED;
    weights[ALL_BROKEN] += before[ALL_BROKEN] * (1 - IS_MENDED);
    double half = before[ALL_BROKEN] * IS_MENDED_HALF;
    weights[ALL_BROKEN] -= half;
    spread(weights, ALL_FLAKY, half);
    for (int step = 0; step < Rates.STEPS; step++) {
      stays(before, weights, ALL_FLAKY + step, IS_STEADIED, FLAKY_BREAKS);
    }
    return weights;
  }

  private static void stays(
      float[] before, float[] weights, int what, double mended, double breaks) {
    weights[SOUND] += before[what] * mended;
    weights[ALL_BROKEN] += before[what] * breaks;
    weights[what] += before[what] * (1 - mended - breaks);
  }

  private static void weigh(float[] weights, int environment, int environments, Sight sight) {
    double sound = likely(ODD_FAILURE, sight);
    double broken = likely(1 - ODD_PASS, sight);
    weights[SOUND] *= sound;
    weights[PRONE] *= sound;
    weights[ALL_BROKEN] *= broken;
    for (int i = 0; i < environments; i++) {
      weights[brokenIn(i)] *= i == environment ? broken : sound;
    }
    for (int step = 0; step < Rates.STEPS; step++) {
      double flaky = likely(Rates.at(step), sight);
      weights[ALL_FLAKY + step] *= flaky;
      for (int i = 0; i < environments; i++) {
        weights[flakyIn(i) + step] *= i == environment ? flaky : sound;
      }
    }
  }

  /** Of so many tries in whatever order, at a rate at which one fails. */
  private static double likely(double rate, Sight sight) {
    if (sight.failed() + sight.passed() == 1) {
      return sight.failed() == 1 ? rate + (1 - rate) * sight.common() : 1 - rate;
    }
    double own = ofItself(rate, sight);
    if (sight.failed() == 0 || sight.common() == 0) {
      return own;
    }
    // What failed may have met what others met, and then it tells nothing of this test.
    return own + (Math.pow(1 - rate, sight.passed()) - own) * sight.common();
  }

  private static double ofItself(double rate, Sight sight) {
    double tries = sight.failed() + (double) sight.passed();
    double counted = Math.min(1, MOST_TRIES / tries);
    return Math.pow(rate, sight.failed() * counted) * Math.pow(1 - rate, sight.passed() * counted);
  }
}
