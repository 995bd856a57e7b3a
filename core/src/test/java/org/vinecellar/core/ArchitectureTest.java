package org.vinecellar.core;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.GeneralCodingRules.NO_CLASSES_SHOULD_ACCESS_STANDARD_STREAMS;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.junit.ArchTests;
import com.tngtech.archunit.lang.ArchRule;
import org.vinecellar.rules.HouseRules;

@AnalyzeClasses(
    packages = "org.vinecellar.core",
    importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest static final ArchTests HOUSE = ArchTests.in(HouseRules.class);

  @ArchTest
  static final ArchRule ONLY_PLAIN_JAVA =
      noClasses()
          .should()
          .dependOnClassesThat()
          .resideOutsideOfPackages(
              "java..",
              "javax.xml.stream..",
              "com.fasterxml.aalto..",
              "org.codehaus.stax2..",
              "com.fasterxml.jackson..",
              "org.apache.commons.codec..",
              "org.apache.commons.csv..",
              "com.google.re2j..",
              "org.snakeyaml.engine..",
              "org.jspecify..",
              "org.vinecellar.core..");

  @ArchTest
  static final ArchRule TOKENS_ONLY_IN_FORMATS =
      noClasses()
          .that()
          .resideOutsideOfPackage("..core.formats..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("javax.xml..", "com.fasterxml..");

  @ArchTest
  static final ArchRule NO_FILES_OR_NETWORK =
      noClasses()
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage("java.nio.file..", "java.net..");

  @ArchTest static final ArchRule STREAMS = NO_CLASSES_SHOULD_ACCESS_STANDARD_STREAMS;
}
