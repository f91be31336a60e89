package dev.graphema;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.importer.ImportOption;
import com.tngtech.archunit.junit.AnalyzeClasses;
import com.tngtech.archunit.junit.ArchTest;
import com.tngtech.archunit.lang.ArchRule;

@AnalyzeClasses(packages = "dev.graphema", importOptions = ImportOption.DoNotIncludeTests.class)
class ArchitectureTest {
    @ArchTest
    static final ArchRule packagesFormNoCycle =
            slices().matching("dev.graphema.(**)").should().beFreeOfCycles();

    @ArchTest
    static final ArchRule coreKnowsNothingButItsThreeLibrariesAndTheJdk = classes()
            .should()
            .onlyDependOnClassesThat()
            .resideInAnyPackage(
                    "dev.graphema..",
                    "java..",
                    "javax.crypto..",
                    "javax.management..",
                    "com.google.re2j..",
                    "org.snakeyaml.engine.v2..");

    @ArchTest
    static final ArchRule nothingBelowKnowsTheFrontDoor = noClasses()
            .that()
            .resideInAPackage("dev.graphema.*..")
            .should()
            .dependOnClassesThat()
            .resideInAPackage("dev.graphema");

    @ArchTest
    static final ArchRule eventsKnowNothingElseOfGraphema = classes()
            .that()
            .resideInAPackage("dev.graphema.event")
            .should()
            .onlyDependOnClassesThat()
            .resideInAnyPackage(
                    "dev.graphema.event", "dev.graphema.trace", "dev.graphema.text", "dev.graphema.failure", "java..");
}
