package tidybridge.core.compile;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Duration;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import tidybridge.core.access.AddressList;
import tidybridge.core.access.CrossOrigin;
import tidybridge.core.access.Needs;
import tidybridge.core.access.Role;
import tidybridge.core.catalog.Field;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.ModuleDefinition;
import tidybridge.core.definition.ModuleReader;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;

/** Who may call what, as a module's text says it. */
class AccessCheckTest {

    private static final List<Code> OF_ACCESS = List.of(
            Code.ACCESS_UNSAID,
            Code.OPEN_TO_EVERYBODY,
            Code.CHANGE_OPEN,
            Code.SIBLING_OPEN,
            Code.PRIVILEGE_UNHELD,
            Code.VALUE_UNFIT,
            Code.ACCEPTANCE_IDLE);

    /**
     * A module of four operations.
     *
     * @param module lines of the module's own
     * @param berths of the route /berths
     * @param put of its change
     * @param free of GET /berths/free
     */
    private record Text(String module, String berths, String put, String free) {

        String yaml() {
            return """
                    module: quays
                    version: 1.0.0
                    title: Quays
                    source: waterways
                    %s
                    routes:
                      /berths/{id}:
                        %s
                        get: { about: One, sql: one.sql, answer: row, parameters: { id: { in: path, type: integer, example: 1 } } }
                        put: { about: Change, sql: put.sql, answer: nothing, changes: one, %s parameters: { id: { in: path, type: integer, example: 1 } } }
                      /berths/free:
                        get: { about: Free, sql: free.sql, answer: value, %s }
                    """.formatted(module, berths, put, free);
        }

        ModuleText text() {
            return new ModuleText(
                    "modules/quays/v1",
                    Map.of(
                            "module.yaml",
                            yaml(),
                            "one.sql",
                            "select id from berth where id = :id",
                            "put.sql",
                            "update berth set free = 1 where id = :id",
                            "free.sql",
                            "select 1 as id"));
        }

        ModuleDefinition definition() {
            return ModuleReader.read(text(), new Findings()).orElseThrow();
        }

        List<Needs> needs() {
            return definition().needs().toList();
        }

        List<String> found(@Nullable Collection<Role> roles) {
            Findings findings = new Findings();
            ModuleReader.read(text(), findings)
                    .ifPresent(module -> Compiler.compile(
                            module,
                            PlanFixture.describing(new Field("id", FieldType.INTEGER, false)),
                            findings,
                            new Compiler.Known(Map.of(), roles)));
            List<String> told = new ArrayList<>();
            for (Finding finding : findings.sorted()) {
                if (OF_ACCESS.contains(finding.code()) && !finding.isAccepted()) {
                    told.add(finding.code().label() + (finding.operation() == null ? "" : " " + finding.operation()));
                }
            }
            return told;
        }

        List<String> found() {
            return found(null);
        }
    }

    @Test
    void theNearestThatIsSaidCounts() {
        assertThat(new Text("needs: quays.read", "needs: quays.look", "needs: [quays.change, quays.audit],", "")
                        .needs())
                .containsExactly(
                        Needs.anyOf(List.of("quays.look")),
                        Needs.anyOf(List.of("quays.change", "quays.audit")),
                        Needs.anyOf(List.of("quays.read")));
        assertThat(new Text("public: true", "needs: quays.look", "", "").needs())
                .containsExactly(Needs.anyOf(List.of("quays.look")), Needs.anyOf(List.of("quays.look")), Needs.NOTHING);
        assertThat(new Text("needs: quays.read", "", "", "public: true").needs())
                .containsExactly(Needs.anyOf(List.of("quays.read")), Needs.anyOf(List.of("quays.read")), Needs.NOTHING);
    }

    @Test
    void whatIsClosedInsideStaysClosedUnlessAPrivilegeIsSaidFurtherOut() {
        assertThat(new Text("public: true", "", "public: false,", "").needs())
                .containsExactly(Needs.NOTHING, Needs.CLOSED, Needs.NOTHING);
        assertThat(new Text("needs: quays.read", "public: true", "public: false,", "").needs())
                .containsExactly(Needs.NOTHING, Needs.anyOf(List.of("quays.read")), Needs.anyOf(List.of("quays.read")));
        assertThat(new Text("", "", "", "").needs()).containsOnly(Needs.CLOSED);
    }

    @Test
    void whoSaysNothingIsToldWhatToWrite() {
        assertThat(new Text("", "", "", "").found()).containsExactly("access-unsaid");
        assertThat(new Text("", "needs: quays.read", "", "").found()).containsExactly("access-unsaid GET /berths/free");
        assertThat(new Text("public: false", "", "", "").found()).isEmpty();
        assertThat(new Text("needs: quays.read", "", "", "").found()).isEmpty();
    }

    @Test
    void whatIsOpenIsTold() {
        assertThat(new Text("public: true", "", "needs: quays.change,", "").found())
                .containsExactly("open-to-everybody");
        assertThat(new Text("needs: quays.read", "", "", "public: true").found())
                .containsExactly("open-to-everybody GET /berths/free");
        assertThat(new Text("needs: quays.read", "", "public: true,", "").found())
                .containsExactlyInAnyOrder("change-open PUT /berths/{id}", "open-to-everybody PUT /berths/{id}");
        assertThat(new Text("public: true", "", "", "").found())
                .containsExactlyInAnyOrder("open-to-everybody", "change-open PUT /berths/{id}");
    }

    @Test
    void aProtectedSiblingMakesAnOpenOneSuspicious() {
        assertThat(new Text("public: true", "", "needs: quays.change,", "needs: quays.read").found())
                .containsExactlyInAnyOrder("open-to-everybody", "sibling-open GET /berths/{id}");
        assertThat(new Text("public: true", "needs: quays.read", "", "public: true").found())
                .as("said of the operation itself")
                .containsExactlyInAnyOrder("open-to-everybody", "open-to-everybody GET /berths/free");
    }

    @Test
    void aPrivilegeThatNoRoleHoldsIsTold() {
        Text text = new Text("needs: quays.read", "", "needs: quays.change,", "");
        assertThat(text.found(List.of()))
                .containsExactly("privilege-unheld GET /berths/{id}", "privilege-unheld PUT /berths/{id}");
        assertThat(text.found(List.of(new Role("reader", null, List.of("quays.read")))))
                .containsExactly("privilege-unheld PUT /berths/{id}");
        assertThat(text.found(List.of(new Role("keeper", null, List.of("quays.*")))))
                .isEmpty();
        assertThat(text.found(Role.BUILT_IN))
                .as("an administrator is no role to give")
                .hasSize(2);
        assertThat(text.found(null)).as("roles are not known").isEmpty();
    }

    @Test
    void itCanBeAcceptedAndIsNotIdleWhereRolesAreUnknown() {
        Text text = new Text(
                "needs: quays.read\naccept: { privilege-unheld: the role comes with the next workspace }", "", "", "");
        assertThat(text.found(List.of())).isEmpty();
        assertThat(text.found(null)).isEmpty();
        assertThat(text.found(List.of(new Role("reader", null, List.of("quays.read")))))
                .containsExactly("acceptance-idle");
    }

    @Test
    void networksAreReadAndEverythingElseIsRefused() {
        assertThat(new Text("addresses: [10.0.0.0/8, '2001:db8::/32']", "", "", "")
                        .definition()
                        .admission()
                        .addresses()
                        .written())
                .containsExactly("10.0.0.0/8", "2001:db8::/32");
        assertThat(new Text("addresses: 192.0.2.7", "", "", "")
                        .definition()
                        .admission()
                        .addresses())
                .hasToString("192.0.2.7");
        assertThat(new Text("", "", "", "").definition().admission().addresses())
                .isSameAs(AddressList.EVERYWHERE);
        for (String wrong : List.of("the office", "10.0.0.0/40", "[]", "[[10.0.0.1]]", "{ a: b }", "")) {
            assertThat(new Text("needs: quays.read\naddresses: " + wrong, "", "", "").found())
                    .as(wrong)
                    .contains("value-unfit");
        }
    }

    @Test
    void originsAreReadAndEverythingElseIsRefused() {
        CrossOrigin read = new Text(
                        "cross-origin: { origins: ['https://a.example', 'http://localhost:3000'], credentials: true, expose: X-Left, keep: 60s }",
                        "",
                        "",
                        "")
                .definition()
                .admission()
                .crossOrigin();
        assertThat(read)
                .isEqualTo(new CrossOrigin(
                        Set.of("https://a.example", "http://localhost:3000"),
                        true,
                        List.of("X-Left"),
                        Duration.ofSeconds(60)));
        assertThat(read.allows("https://a.example")).isTrue();
        assertThat(read.allows("https://a.example.evil")).isFalse();
        assertThat(read.allows("null")).isFalse();
        assertThat(new Text("", "", "", "").definition().admission().crossOrigin())
                .isNull();
        for (String wrong : List.of(
                "{ origins: 'https://a.example/' }",
                "{ origins: 'HTTPS://A.example' }",
                "{ origins: 'a.example' }",
                "{ origins: 'null' }",
                "{ origins: '*', credentials: true }",
                "{ origins: 'https://a.example', expose: 'a b' }",
                "{ origins: 'https://a.example', keep: 25m, credentials: maybe }",
                "[a]")) {
            assertThat(new Text("needs: quays.read\ncross-origin: " + wrong, "", "", "").found())
                    .as(wrong)
                    .contains("value-unfit");
        }
    }

    @Test
    void whatCannotBeMeantIsRefused() {
        assertThat(new Text("needs: quays.read\npublic: true", "", "", "").found())
                .contains("value-unfit");
        assertThat(new Text("needs: tidy.publish", "", "", "").found()).contains("value-unfit");
        assertThat(new Text("needs: 'quays.*'", "", "", "").found()).contains("value-unfit");
        assertThat(new Text("needs: Quays read", "", "", "").found()).contains("value-unfit");
        assertThat(new Text("needs: [[quays.read]]", "", "", "").found()).contains("value-unfit");
        assertThat(new Text("needs: []", "", "", "").found()).contains("value-unfit");
        assertThat(new Text("needs:", "", "", "").found()).contains("value-unfit");
    }
}
