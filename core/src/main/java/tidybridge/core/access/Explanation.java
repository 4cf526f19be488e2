package tidybridge.core.access;

import java.util.ArrayList;
import java.util.List;
import java.util.stream.Collectors;
import org.jspecify.annotations.Nullable;

/**
 * Why somebody may, or may not, make a call: everything that is looked at, in that order. Immutable and thread-safe.
 *
 * @param steps in the order in which they decide
 */
public record Explanation(List<Step> steps) {

    /** How something that is looked at comes out. */
    public enum Outcome {
        YES,
        NO,
        /** It depends on what was not said, such as the address. */
        DEPENDS
    }

    /** What is looked at. */
    public enum Subject {
        CALLER,
        ADDRESS,
        TRANSPORT,
        PRIVILEGE,
        QUOTA
    }

    /**
     * One thing that is looked at.
     *
     * @param sentence says how it comes out, and what would change it
     */
    public record Step(Subject subject, Outcome outcome, String sentence) {}

    /**
     * Somebody of whom it is asked.
     *
     * @param name null for somebody unknown
     * @param kind what to call them: "application" or "person"
     * @param trouble why they cannot show who they are, as a sentence; null when they can
     * @param roles those they have
     * @param given privileges that they hold beside those of their roles
     * @param addresses where they may call from
     */
    public record Asked(
            @Nullable String name,
            String kind,
            @Nullable String trouble,
            List<Role> roles,
            List<String> given,
            AddressList addresses) {

        /** Somebody who shows nothing. */
        public static final Asked STRANGER = new Asked(null, "", null, List.of(), List.of(), AddressList.EVERYWHERE);

        public Asked {
            roles = List.copyOf(roles);
            given = List.copyOf(given);
        }
    }

    public Explanation {
        steps = List.copyOf(steps);
    }

    /**
     * Looks at everything but quotas.
     *
     * @param address where the call would come from; null when it is not said
     * @param known every role there is
     */
    public static Explanation of(
            Asked asked, Admission admission, Needs needs, @Nullable String address, List<Role> known) {
        List<Step> steps = new ArrayList<>();
        steps.add(caller(asked, needs));
        if (asked.addresses() != AddressList.EVERYWHERE) {
            steps.add(address("The " + asked.kind() + " may call", asked.addresses(), address));
        }
        if (admission.addresses() != AddressList.EVERYWHERE) {
            steps.add(address("The module is called", admission.addresses(), address));
        }
        if (admission.tls()) {
            steps.add(new Step(Subject.TRANSPORT, Outcome.DEPENDS, "The module is called by https only."));
        }
        steps.add(privilege(asked, needs, known));
        return new Explanation(steps);
    }

    /** The same with more that is looked at. */
    public Explanation with(List<Step> more) {
        List<Step> all = new ArrayList<>(steps);
        all.addAll(more);
        return new Explanation(all);
    }

    /** {@link Outcome#NO} when one thing says no; otherwise whether anything depends on what was not said. */
    public Outcome outcome() {
        Outcome outcome = Outcome.YES;
        for (Step step : steps) {
            if (step.outcome() == Outcome.NO) {
                return Outcome.NO;
            }
            outcome = step.outcome() == Outcome.DEPENDS ? Outcome.DEPENDS : outcome;
        }
        return outcome;
    }

    private static Step caller(Asked asked, Needs needs) {
        if (asked.name() == null) {
            return new Step(
                    Subject.CALLER,
                    needs.open() ? Outcome.YES : Outcome.NO,
                    needs.open() ? "Nothing has to be shown." : "Whoever calls must show a credential.");
        }
        String trouble = asked.trouble();
        return trouble == null
                ? new Step(Subject.CALLER, Outcome.YES, "The " + asked.kind() + " '" + asked.name() + "' is known.")
                : new Step(Subject.CALLER, Outcome.NO, trouble);
    }

    private static Step address(String who, AddressList list, @Nullable String address) {
        if (address == null) {
            return new Step(Subject.ADDRESS, Outcome.DEPENDS, who + " from " + list + " only.");
        }
        boolean contained = list.contains(address);
        return new Step(
                Subject.ADDRESS,
                contained ? Outcome.YES : Outcome.NO,
                who + " from " + list + (contained ? ", which " : " only, which ") + address
                        + (contained ? " is part of." : " is no part of."));
    }

    private static Step privilege(Asked asked, Needs needs, List<Role> known) {
        if (needs.open()) {
            return new Step(Subject.PRIVILEGE, Outcome.YES, "The operation is open to everybody.");
        }
        for (Role role : asked.roles()) {
            String by = by(role, needs);
            if (by != null) {
                return new Step(Subject.PRIVILEGE, Outcome.YES, "The role '" + role.name() + "' holds " + by + ".");
            }
        }
        for (String given : asked.given()) {
            if (needs.anyOf().contains(given)) {
                return new Step(Subject.PRIVILEGE, Outcome.YES, "'" + given + "' was given to it on request.");
            }
        }
        String others = known.stream()
                .filter(role -> by(role, needs) != null)
                .map(role -> "'" + role.name() + "'")
                .collect(Collectors.joining(", "));
        String asks = needs.anyOf().isEmpty()
                ? "The operation is closed to all but administrators"
                : "The operation asks for " + words(needs);
        return new Step(
                Subject.PRIVILEGE,
                Outcome.NO,
                asks + ", and "
                        + (asked.roles().isEmpty()
                                ? "the caller has no role"
                                : "none of the caller's roles holds "
                                        + (needs.anyOf().size() > 1 ? "one of them" : "it"))
                        + "; " + (others.isEmpty() ? "no role does." : "these roles do: " + others + "."));
    }

    private static String words(Needs needs) {
        return (needs.anyOf().size() == 1 ? "the privilege " : "one of the privileges ")
                + needs.anyOf().stream().map(name -> "'" + name + "'").collect(Collectors.joining(", "));
    }

    /** By what a role meets what is asked for, for people; null when it does not. */
    public static @Nullable String by(Role role, Needs needs) {
        for (String held : role.holds()) {
            if (needs.areMetBy(Holdings.of(List.of(held)))) {
                return held.equals(Holdings.EVERY) ? "every privilege" : "'" + held + "'";
            }
        }
        return null;
    }
}
