package tidybridge.service;

import static com.tngtech.archunit.core.domain.JavaClass.Predicates.resideInAPackage;
import static com.tngtech.archunit.core.domain.JavaClass.Predicates.simpleNameStartingWith;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.classes;
import static com.tngtech.archunit.lang.syntax.ArchRuleDefinition.noClasses;
import static com.tngtech.archunit.library.dependencies.SlicesRuleDefinition.slices;
import static org.assertj.core.api.Assertions.assertThat;

import com.tngtech.archunit.core.domain.JavaClass;
import com.tngtech.archunit.core.domain.JavaClasses;
import com.tngtech.archunit.core.importer.ClassFileImporter;
import com.tngtech.archunit.core.importer.ImportOption;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.springframework.context.annotation.Configuration;
import org.springframework.context.annotation.Import;
import org.springframework.stereotype.Component;

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

    /** A start looks through no folder, so that one that is not named would answer nothing. */
    @Test
    void everyPartOfTheServiceIsNamedByAWiring() {
        Set<Class<?>> named = new HashSet<>();
        Set<Class<?>> parts = new HashSet<>();
        for (JavaClass each : everything) {
            if (each.isAnnotatedWith(Import.class)) {
                named.addAll(List.of(each.reflect().getAnnotation(Import.class).value()));
            }
            if (each.isMetaAnnotatedWith(Component.class) && !each.isMetaAnnotatedWith(Configuration.class)) {
                parts.add(each.reflect());
            }
        }
        assertThat(parts).hasSizeGreaterThan(30);
        assertThat(named).containsAll(parts);
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
                        "javax.xml.stream..",
                        "tools.jackson..",
                        "org.snakeyaml..",
                        "com.fasterxml.jackson.annotation..",
                        "com.google.re2j..",
                        "com.github.difflib..",
                        "org.apache.commons.csv..",
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
        mayUse(
                "tidybridge.engine..",
                "tidybridge.core..",
                // how busy this machine is
                "com.sun.management..",
                "javax.sql..",
                "javax.net..",
                "com.zaxxer.hikari..",
                "org.mariadb..");
    }

    @Test
    void recordsDependOnCoreAndTheirStoreOnly() {
        mayUse(
                "tidybridge.records..",
                "tidybridge.core..",
                "javax.sql..",
                "com.zaxxer.hikari..",
                "org.jooq..",
                "org.flywaydb..",
                "tools.jackson..");
    }

    @Test
    void theCommandLineDependsOnCoreOnly() {
        mayUse(
                "tidybridge.cli..",
                "tidybridge.core..",
                "picocli..",
                "com.github.freva..",
                "tools.jackson..",
                "com.sun.net.httpserver..",
                "javax.net.ssl..");
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
    void theRoomsOfTheServiceHaveNoCycles() {
        slices().matching("tidybridge.service.(*)..").should().beFreeOfCycles().check(everything);
    }

    @Test
    void operationsAreRunWithoutAServer() {
        noClasses()
                .that()
                .resideInAPackage("tidybridge.service.run..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "jakarta..",
                        "org.springframework..",
                        "org.apache..",
                        "java.net.http..",
                        "tidybridge.service.gateway..",
                        "tidybridge.service.live..",
                        "tidybridge.service.access..")
                .check(everything);
    }

    @Test
    void requestsReadPlansAndCompileNothing() {
        noClasses()
                .that()
                .resideInAnyPackage("tidybridge.service.run..", "tidybridge.service.gateway..", "tidybridge.engine..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage("tidybridge.core.compile..", "tidybridge.core.advise..", "tidybridge.core.infer..")
                .check(everything);
        noClasses()
                .that()
                .resideInAnyPackage("tidybridge.core.plan..", "tidybridge.core.answer..", "tidybridge.core.bind..")
                .should()
                .dependOnClassesThat()
                .resideInAnyPackage(
                        "tidybridge.core.compile..", "tidybridge.core.advise..", "tidybridge.core.reference..")
                .check(everything);
    }

    /** The record store is MariaDB by decision, and the demo brings one along; everything else asks a seam. */
    @Test
    void noOtherPlaceNamesMariaDb() {
        noClasses()
                .that()
                .resideOutsideOfPackages(
                        "tidybridge.engine.mariadb..",
                        "tidybridge.core.sql..",
                        "tidybridge.records..",
                        "tidybridge.demo..",
                        "tidybridge.bench..")
                .should()
                .dependOnClassesThat(resideInAPackage("org.mariadb..")
                        .or(resideInAPackage("tidybridge.engine.mariadb.."))
                        .or(simpleNameStartingWith("MariaDb")))
                .check(everything);
        noClasses()
                .that()
                .haveSimpleNameStartingWith("MariaDb")
                .should()
                .resideOutsideOfPackages("tidybridge.engine.mariadb..", "tidybridge.core.sql..")
                .check(everything);
    }

    /** Whatever is met once for a form, a failure or a mistake; a good keyed read or page passes by. */
    private static final String COLD =
            "service\\.gateway\\.(UnknownAddress|ReferenceCall|ChangesCall|FailureLog|FileFields|EndOfLife|Repeats|ChangeCall"
                    + "|RepeatKey|HttpAnswer|MissingAccess|CrossOriginFields)\\..*"
                    + "|service\\.gateway\\.GatewayServlet\\.(refusal|refuse|isRead|tellMethods|otherMethod)"
                    + "|service\\.gateway\\.OperationCall\\.withoutParameters"
                    + "|service\\.run\\.(ChangeRun|EntityTags|Refusal|StateCheck)\\..*"
                    + "|service\\.run\\.ReadRun\\.(writeFile|mediaType)"
                    + "|service\\.live\\.(LiveModules\\.(note|keep|completed)|ReferenceFiles\\..*)"
                    + "|service\\.(Problems|trial|access\\.(Challenge|SignIns|AccessBook|AccessChanges))\\..*"
                    + "|service\\.access\\.(LiveAccess\\.lookQuietly|Credentials\\.byField)"
                    + "|core\\.problem\\..*|core\\.text\\..*|core\\.condition\\..*"
                    + "|core\\.bind\\.(Mistakes|BadInput|JsonBody|ListReader)\\..*|core\\.bind\\.PairReader\\.(unknown|form)"
                    + "|core\\.bind\\.CompiledInputs\\.known|core\\.bind\\.Reading\\.(json|parts|part|array|row)"
                    + "|core\\.bind\\.Caller\\.<init>"
                    + "|core\\.bind\\.PageStart\\$From\\.<init>|core\\.plan\\.Choices\\.made|service\\.gateway\\.RowFormats\\.refusal"
                    + "|core\\.plan\\.StatementPlan\\.write|core\\.answer\\.(RowCompiler|MaskKey|GeoJson)\\..*|core\\.answer\\.RowWriters\\.(kept|made)"
                    + "|engine\\.(SourceFailure|TransactionRun|ConnectionPool\\.(failure|interrupted|unreachable))\\..*"
                    + "|engine\\.ConnectionPool\\.(failure|interrupted|unreachable)|engine\\.mariadb\\.MariaDbFailures\\..*"
                    + "|engine\\.Reconnecting\\..*";

    @Test
    void theHotPathFormatsStreamsAndCompilesNothing() {
        assertThat(new HotPath(everything, COLD).slowThings("tidybridge.service.gateway.GatewayServlet", "service"))
                .isEmpty();
    }

    /** A rule that cannot fail is none. */
    @Test
    void theHotPathRuleFindsWhatIsSlow() {
        JavaClasses sample = new ClassFileImporter().importClasses(Entry.class, Step.class, SlowStep.class);
        assertThat(new HotPath(sample, "nothing").slowThings(Entry.class.getName(), "serve"))
                .hasSize(3)
                .anySatisfy(found -> assertThat(found).contains("SlowStep.take calls", "Pattern.compile"))
                .anySatisfy(found -> assertThat(found).contains("SlowStep.take calls", "formatted"))
                .anySatisfy(found -> assertThat(found).contains("Entry.inner calls", "stream"));
        assertThat(new HotPath(sample, ".*SlowStep.*").slowThings(Entry.class.getName(), "serve"))
                .hasSize(1);
    }

    /** Calls a step through its interface, and a stream in a lambda of its own. */
    private static final class Entry {
        private final Step step = new SlowStep();

        void serve() {
            step.take("a");
            inner();
        }

        private void inner() {
            Runnable later = () -> List.of(1).stream();
            later.run();
        }
    }

    /** What an entry sees. */
    private interface Step {
        void take(String text);
    }

    /** What is behind it. */
    private static final class SlowStep implements Step {
        @Override
        public void take(String text) {
            java.util.regex.Pattern.compile("%s".formatted(text));
        }
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
