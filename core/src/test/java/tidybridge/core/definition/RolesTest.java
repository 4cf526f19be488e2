package tidybridge.core.definition;

import static org.assertj.core.api.Assertions.assertThat;

import java.nio.file.Files;
import java.nio.file.Path;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.access.Role;
import tidybridge.core.finding.Finding;
import tidybridge.core.finding.Findings;

/** The roles of a workspace's text. */
class RolesTest {

    @TempDir
    Path folder;

    private final Findings findings = new Findings();

    private Workspace read(String roles) throws Exception {
        Files.writeString(folder.resolve("workspace.yaml"), "workspace: W\nsources:\n  w: { kind: mariadb }\n" + roles);
        return WorkspaceReader.read(folder, findings).orElseThrow();
    }

    private List<String> codes() {
        return findings.sorted().stream()
                .map(Finding::code)
                .map(code -> code.label())
                .filter(code -> !code.equals("nothing-defined"))
                .toList();
    }

    @Test
    void rolesAreReadInTheOrderOfTheText() throws Exception {
        Workspace workspace = read("""
                roles:
                  lock-keeper: { about: Works a lock, holds: [passages.record, 'passages.read.*'] }
                  partner: { holds: moorings.read }
                """);
        assertThat(codes()).isEmpty();
        assertThat(workspace.roles())
                .containsExactly(
                        new Role("lock-keeper", "Works a lock", List.of("passages.record", "passages.read.*")),
                        new Role("partner", null, List.of("moorings.read")));
    }

    @Test
    void noWordAboutRolesIsAnotherThingThanNone() throws Exception {
        assertThat(read("").roles()).isNull();
        assertThat(read("roles: {}\n").roles()).isEmpty();
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "roles: { Keeper: { holds: a.b } }",
                "roles: { administrator: { holds: a.b } }",
                "roles: { keeper: { holds: '*' } }",
                "roles: { keeper: { holds: 'a*' } }",
                "roles: { keeper: { holds: [[a]] } }",
                "roles: { keeper: [a.b] }",
                "roles: [keeper]",
                "roles: keeper"
            })
    void whatIsNoRoleIsToldAtItsPlace(String text) throws Exception {
        read(text + "\n");
        assertThat(codes()).containsExactly("value-unfit");
        assertThat(findings.sorted().getFirst().place().file()).isEqualTo("workspace.yaml");
    }

    @Test
    void whatARoleHoldsMustBeSaid() throws Exception {
        read("roles: { keeper: { about: Nobody knows } }\n");
        assertThat(codes()).containsExactly("key-missing");
    }
}
