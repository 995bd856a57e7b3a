package org.vinecellar.store;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.junit.ArchTests;
import com.tngtech.archunit.lang.ArchRule;
import org.vinecellar.rules.HouseRules;

@AnalyzeClasses(
    packages = "org.vinecellar.store",
    importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
  @ArchTest static final ArchTests HOUSE = ArchTests.in(HouseRules.class);

  @ArchTest
  static final ArchRule NEVER =
      noClasses()
          .that()
          .resideOutsideOfPackage("..generated..")
          .should()
          .dependOnClassesThat()
          .resideInAnyPackage(
              "jakarta..",
              "io.quarkus..",
              "picocli..",
              "org.vinecellar.service..",
              "org.vinecellar.client..");
}
