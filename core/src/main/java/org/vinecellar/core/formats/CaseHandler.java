package org.vinecellar.core.formats;

/** Takes what a reader finds, in the order of the file. Called by one thread. */
public interface CaseHandler {
  /** One case. */
  void onCase(ReportedCase reported);

  /** A property of the file as a whole, such as the version of the runtime. */
  void onProperty(String name, String value);

  /**
   * Something in the file that does not add up but did not stop the reading.
   *
   * @param problem a sentence for a person, with the place in the file where it is known
   */
  void onProblem(String problem);
}
