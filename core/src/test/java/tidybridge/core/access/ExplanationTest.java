package tidybridge.core.access;

import static org.assertj.core.api.Assertions.assertThat;

import java.util.List;
import org.junit.jupiter.api.Test;
import tidybridge.core.access.Explanation.Asked;
import tidybridge.core.access.Explanation.Outcome;
import tidybridge.core.access.Explanation.Step;

/** Why somebody may, or may not, make a call. */
class ExplanationTest {

    private static final Role READER = new Role("reader", null, List.of("quays.read"));
    private static final Role MASTER = new Role("master", null, List.of("locks.open", "quays.*"));
    private static final List<Role> KNOWN = List.of(READER, MASTER, Role.BUILT_IN.getFirst());
    private static final Needs BOOK = Needs.anyOf(List.of("quays.book"));

    private static Asked application(Role... roles) {
        return new Asked("quay", "application", null, List.of(roles), List.of(), AddressList.EVERYWHERE);
    }

    private static Explanation of(Asked asked, Needs needs) {
        return Explanation.of(asked, Admission.USUAL, needs, null, KNOWN);
    }

    @Test
    void aYesNamesTheRoleAndWhatItHolds() {
        Explanation explanation = of(application(READER, MASTER), BOOK);
        assertThat(explanation.outcome()).isEqualTo(Outcome.YES);
        assertThat(explanation.steps())
                .extracting(Step::sentence)
                .containsExactly("The application 'quay' is known.", "The role 'master' holds 'quays.*'.");
        assertThat(of(application(Role.BUILT_IN.getFirst()), Needs.CLOSED).steps())
                .extracting(Step::sentence)
                .contains("The role 'administrator' holds every privilege.");
    }

    @Test
    void aNoNamesTheRolesThatWouldDo() {
        assertThat(of(application(READER), BOOK).steps())
                .extracting(Step::sentence)
                .contains(
                        "The operation asks for the privilege 'quays.book', and none of the caller's roles holds it; these roles do: 'master', 'administrator'.");
        assertThat(of(application(), Needs.anyOf(List.of("a.b", "c.d")))
                        .steps()
                        .getLast()
                        .sentence())
                .isEqualTo(
                        "The operation asks for one of the privileges 'a.b', 'c.d', and the caller has no role; these roles do: 'administrator'.");
        assertThat(Explanation.of(application(READER), Admission.USUAL, Needs.CLOSED, null, List.of(READER))
                        .steps()
                        .getLast()
                        .sentence())
                .isEqualTo(
                        "The operation is closed to all but administrators, and none of the caller's roles holds it; no role does.");
    }

    @Test
    void whatWasGivenOnRequestIsEnoughAndNotTakenForARole() {
        Asked given =
                new Asked("quay", "application", null, List.of(READER), List.of("quays.book"), AddressList.EVERYWHERE);
        Explanation explanation = of(given, BOOK);
        assertThat(explanation.outcome()).isEqualTo(Outcome.YES);
        assertThat(explanation.steps().getLast().sentence()).isEqualTo("'quays.book' was given to it on request.");
        assertThat(of(given, Needs.anyOf(List.of("quays.close"))).outcome()).isEqualTo(Outcome.NO);
    }

    @Test
    void aStrangerMayCallWhatIsOpenOnly() {
        assertThat(of(Asked.STRANGER, Needs.NOTHING).outcome()).isEqualTo(Outcome.YES);
        assertThat(of(Asked.STRANGER, BOOK).outcome()).isEqualTo(Outcome.NO);
    }

    @Test
    void whoeverCannotShowWhoTheyAreMayCallNothing() {
        Asked off = new Asked(
                "quay", "application", "It is turned off.", List.of(MASTER), List.of(), AddressList.EVERYWHERE);
        Explanation explanation = of(off, BOOK);
        assertThat(explanation.outcome()).isEqualTo(Outcome.NO);
        assertThat(explanation.steps().getFirst().sentence()).isEqualTo("It is turned off.");
    }

    @Test
    void addressesDecideOnceOneIsSaid() {
        Admission admission = new Admission(AddressList.of(List.of("10.0.0.0/8", "192.0.2.7")), true, null, null);
        Asked asked = new Asked(
                "quay", "application", null, List.of(MASTER), List.of(), AddressList.of(List.of("10.1.0.0/16")));
        assertThat(Explanation.of(asked, admission, BOOK, null, KNOWN).outcome())
                .isEqualTo(Outcome.DEPENDS);
        List<Step> near =
                Explanation.of(asked, admission, BOOK, "10.1.2.3", KNOWN).steps();
        assertThat(near)
                .extracting(Step::sentence)
                .contains(
                        "The application may call from 10.1.0.0/16, which 10.1.2.3 is part of.",
                        "The module is called from 10.0.0.0/8, 192.0.2.7, which 10.1.2.3 is part of.");
        Explanation far = Explanation.of(asked, admission, BOOK, "10.2.0.1", KNOWN);
        assertThat(far.outcome()).isEqualTo(Outcome.NO);
        assertThat(far.steps())
                .filteredOn(step -> step.outcome() == Outcome.NO)
                .extracting(Step::sentence)
                .containsExactly("The application may call from 10.1.0.0/16 only, which 10.2.0.1 is no part of.");
    }
}
