package dev.graphema.examples;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

/** Checks all modules together, which only this one has on its class path. */
@AnalyzeClasses(
        packages = {"dev.graphema", "skerry"},
        importOptions = ImportOption.DoNotIncludeTests.class)
class HouseTest {
    @ArchTest
    static final ArchRule packagesOfAllModulesFormNoCycle =
            slices().matching("dev.graphema.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule packagesOfTheServicesFormNoCycle =
            slices().matching("skerry.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule nothingOfTheProductKnowsTheExamples = noClasses()
            .that()
            .resideInAPackage("dev.graphema..")
            .and()
            .resideOutsideOfPackage("dev.graphema.examples..")
            .should()
            .dependOnClassesThat()
            .resideInAnyPackage("dev.graphema.examples", "skerry..");

    @ArchTest
    static final ArchRule onlyTheCommandAndTheExamplesKnowTheCommand = noClasses()
            .that()
            .resideOutsideOfPackages("dev.graphema.cli", "dev.graphema.examples")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("dev.graphema.cli");
}
