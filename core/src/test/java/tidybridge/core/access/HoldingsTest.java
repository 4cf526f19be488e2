package tidybridge.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.Arrays;
import java.util.List;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;

class HoldingsTest {

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
                    moorings.book            | moorings.book       | true
                    moorings.book            | moorings.booking    | false
                    moorings.book            | moorings            | false
                    moorings.*               | moorings.book       | true
                    moorings.*               | moorings.berth.free | true
                    moorings.*               | moorings            | false
                    moorings.*               | mooringsextra.book  | false
                    moorings.berth.*         | moorings.book       | false
                    tolls.read, moorings.*   | tolls.read          | true
                    tolls.read, moorings.*   | tolls.write         | false
                    *                        | tidy.give-access    | true
                    *                        | *                   | true
                    tidy.*                   | *                   | false
                    tidy.*                   | tidy.publish        | true
                    Moorings.*               | moorings.book       | false
                    **                       | moorings.book       | false
                    m*                       | moorings.book       | false
                    """)
    void aPrivilegeIsHeldByItsNameOrByItsGroup(String held, String asked, boolean expected) {
        assertThat(Holdings.of(Arrays.asList(held.split(", "))).test(asked)).isEqualTo(expected);
    }

    @Test
    void whatIsHeldIsWrittenInOneOrder() {
        assertThat(Holdings.of(List.of("tolls.read", "moorings.*", "tolls.read", "no name"))
                        .written())
                .containsExactly("moorings.*", "tolls.read");
        assertThat(Holdings.of(List.of("tolls.read", "*"))).isSameAs(Holdings.ALL);
        assertThat(Holdings.of(List.of("nothing that", "is a name"))).isSameAs(Holdings.NONE);
    }

    @ParameterizedTest
    @ValueSource(strings = {"", ".", "a.", ".a", "a..b", "A", "a b", "a\n", "1a", "a.*", "*", "-a", "ä"})
    void whatIsNoName(String text) {
        assertThat(Privilege.isName(text)).isFalse();
    }

    @Test
    void aNameHasABound() {
        assertThat(Privilege.isName("a".repeat(Privilege.LONGEST))).isTrue();
        assertThat(Privilege.isName("a".repeat(Privilege.LONGEST + 1))).isFalse();
    }

    @Test
    void oneOfSeveralNeedsIsEnough() {
        Needs needs = Needs.anyOf(List.of("moorings.read", "moorings.audit"));
        assertThat(needs.areMetBy(Holdings.of(List.of("moorings.audit")))).isTrue();
        assertThat(needs.areMetBy(Holdings.of(List.of("moorings.book")))).isFalse();
        assertThat(needs.areMetBy(Holdings.ALL)).isTrue();
        assertThat(Needs.NOTHING.areMetBy(Holdings.NONE)).isTrue();
    }

    @Test
    void whatIsClosedIsForHoldersOfEverythingOnly() {
        assertThat(Needs.CLOSED.areMetBy(Holdings.of(List.of("moorings.*", "tidy.*"))))
                .isFalse();
        assertThat(Needs.CLOSED.areMetBy(Holdings.ALL)).isTrue();
    }

    @Test
    void theServicesOwnRolesHoldItsOwnPrivilegesOnly() {
        for (Role role : Role.BUILT_IN) {
            assertThat(Role.isName(role.name())).isTrue();
            assertThat(role.holds()).allMatch(held -> held.equals(Holdings.EVERY) || Privilege.isOwn(held));
        }
        for (ServicePrivilege privilege : ServicePrivilege.values()) {
            assertThat(Privilege.isName(privilege.privilege())).isTrue();
            assertThat(Privilege.isOwn(privilege.privilege())).isTrue();
        }
    }
}
