package org.vinecellar.rules;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.GeneralCodingRules.NO_CLASSES_SHOULD_THROW_GENERIC_EXCEPTIONS;
import static com.tngtech.archunit.library.GeneralCodingRules.NO_CLASSES_SHOULD_USE_FIELD_INJECTION;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.time.Clock;
import java.time.Instant;

/** Each module's {@code ArchitectureTest} takes these in and adds what it must not know. */
public final class HouseRules {
  /** Rooms of a module know each other one way only. */
  @ArchTest
  public static final ArchRule NO_CYCLES =
      slices().matching("org.vinecellar.*.(*)..").should().beFreeOfCycles();

  /** Who needs the time is given a source of it. */
  @ArchTest
  public static final ArchRule TIME_COMES_IN =
      noClasses()
          .should()
          .callMethod(Instant.class, "now")
          .orShould()
          .callMethod(System.class, "currentTimeMillis")
          .orShould()
          .callMethod(Clock.class, "systemUTC")
          .because("who needs the time is given a source of it");

  /** Constructors say what is needed. */
  @ArchTest public static final ArchRule INJECTION = NO_CLASSES_SHOULD_USE_FIELD_INJECTION;

  /** Failures have names. */
  @ArchTest public static final ArchRule EXCEPTIONS = NO_CLASSES_SHOULD_THROW_GENERIC_EXCEPTIONS;

  private HouseRules() {}
}
