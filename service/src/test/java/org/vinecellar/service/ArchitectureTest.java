package org.vinecellar.service;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.GeneralCodingRules.NO_CLASSES_SHOULD_THROW_GENERIC_EXCEPTIONS;
import static com.tngtech.archunit.library.GeneralCodingRules.NO_CLASSES_SHOULD_USE_FIELD_INJECTION;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;
import java.time.Instant;

@AnalyzeClasses(
    packages = "org.vinecellar.service",
    importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest
  static final ArchRule NEVER =
      noClasses()
          .that()
          .resideOutsideOfPackage("..generated..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "org.jooq..",
              "java.sql..",
              "picocli..",
              "org.vinecellar.client..",
              "org.vinecellar.core.formats.junitxml..");

  @ArchTest
  static final ArchRule NO_CYCLES =
      slices().matching("org.vinecellar.service.(*)..").should().beFreeOfCycles();

  @ArchTest
  static final ArchRule TIME_COMES_IN =
      noClasses()
          .should()
          .callMethod(Instant.class, "now")
          .orShould()
          .callMethod(System.class, "currentTimeMillis");

  @ArchTest static final ArchRule INJECTION = NO_CLASSES_SHOULD_USE_FIELD_INJECTION;
  @ArchTest static final ArchRule EXCEPTIONS = NO_CLASSES_SHOULD_THROW_GENERIC_EXCEPTIONS;
}
