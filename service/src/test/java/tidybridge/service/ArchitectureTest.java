package tidybridge.service;

import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;

import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;

/** The rooms of the house: who may depend on whom. */
class ArchitectureTest {

    private static JavaClasses everything;

    @BeforeAll
    static void read() {
        everything = new ClassFileImporter()
                .withImportOption(ImportOption.Predefined.DO_NOT_INCLUDE_TESTS)
                .withImportOption(location -> !location.contains("-tests.jar"))
                .importPackages("tidybridge");
    }

    @Test
    void coreDependsOnTheJdkAndItsTextLibrariesOnly() {
        classes()
                .that()
                .resideInAPackage("tidybridge.core..")
                .should()
                .onlyDependOnClassesThat()
                .resideInAnyPackage(
                        "tidybridge.core..",
                        "java..",
                        "javax.crypto..",
                        "tools.jackson..",
                        "org.snakeyaml..",
                        "org.jspecify..")
                .check(everything);
    }

    @Test
    void coreOpensNoConnectionAndReadsNoClock() {
        noClasses()
                .that()
                .resideInAPackage("tidybridge.core..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("java.sql..", "javax.sql..", "java.net.http..")
                .check(everything);
        noClasses()
                .that()
                .resideInAPackage("tidybridge.core..")
                .should()
                .callMethod(System.class, "currentTimeMillis")
                .orShould()
                .callMethod(System.class, "nanoTime")
                .orShould()
                .callMethod(java.time.Instant.class, "now")
                .orShould()
                .callMethod(java.time.LocalDate.class, "now")
                .check(everything);
    }

    @Test
    void engineDependsOnCoreAndDatabasesOnly() {
        mayUse("tidybridge.engine..", "tidybridge.core..", "javax.sql..", "com.zaxxer.hikari..", "org.mariadb..");
    }

    @Test
    void recordsDependOnCoreAndTheirStoreOnly() {
        mayUse(
                "tidybridge.records..",
                "tidybridge.core..",
                "com.zaxxer.hikari..",
                "org.jooq..",
                "org.flywaydb..",
                "tools.jackson..");
    }

    @Test
    void theCommandLineDependsOnCoreOnly() {
        mayUse("tidybridge.cli..", "tidybridge.core..", "picocli..", "com.github.freva..", "tools.jackson..");
    }

    @Test
    void nothingDependsOnTheServiceOrTheDemo() {
        noClasses()
                .that()
                .resideOutsideOfPackages("tidybridge.service..", "tidybridge.bench..")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("tidybridge.service..")
                .check(everything);
        noClasses()
                .that()
                .resideOutsideOfPackages("tidybridge.demo..", "tidybridge.bench..")
                .should()
                .dependOnClassesThat()
                .resideInAPackage("tidybridge.demo..")
                .check(everything);
    }

    @Test
    void theStepsOfCoreHaveNoCycles() {
        slices().matching("tidybridge.core.(*)..").should().beFreeOfCycles().check(everything);
    }

    @Test
    void theHotPathFormatsAndStreamsNothing() {
        noClasses()
                .that()
                .haveNameMatching(
                        "tidybridge\\.core\\.answer\\.RowWriter|tidybridge\\.core\\.route\\.Router\\$Node|"
                                + "tidybridge\\.engine\\.JdbcRows|tidybridge\\.service\\.gateway\\.(Answering|AnswerBuffer|CallInputs)")
                .should()
                .callMethod(String.class, "format", String.class, Object[].class)
                .check(everything);
    }

    private static void mayUse(String room, String... others) {
        String[] all = new String[others.length + 3];
        all[0] = room;
        all[1] = "java..";
        all[2] = "org.jspecify..";
        System.arraycopy(others, 0, all, 3, others.length);
        classes()
                .that()
                .resideInAPackage(room)
                .should()
                .onlyDependOnClassesThat()
                .resideInAnyPackage(all)
                .check(everything);
    }
}
