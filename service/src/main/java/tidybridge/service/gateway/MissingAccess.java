package tidybridge.service.gateway;

import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import tidybridge.core.access.Needs;
import tidybridge.core.bind.Caller;
import tidybridge.core.problem.Problem;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.access.Challenge;
import tidybridge.service.live.LiveModule;
import tidybridge.service.run.Refusal;

/** Says what a caller lacks, and nothing of what they may not see. */
final class MissingAccess {

    private static final int MOST_NAMED = 10;

    private MissingAccess() {}

    /** For a request from an address that a module is not called from, whoever sends it. */
    static Refusal from(String address, LiveModule module) {
        return new Refusal(
                ProblemKind.NOT_ALLOWED,
                "The module " + module.identity() + " is not called from " + address
                        + "; its owner can add the address to its text.");
    }

    /**
     * For a request that others could read on its way.
     *
     * @param secret true when it carried a credential, which others may know now
     */
    static Refusal unprotected(LiveModule module, boolean secret) {
        return new Refusal(
                ProblemKind.TLS_NEEDED,
                "The module " + module.identity() + " is called by https only"
                        + (secret
                                ? "; the credential that came with this call was not protected on its way, so have it replaced."
                                : "."));
    }

    /** For somebody who may call nothing of a module. */
    static Refusal toModule(Caller caller, LiveModule module) {
        List<String> privileges = module.needs().stream()
                .flatMap(needs -> needs.anyOf().stream())
                .distinct()
                .sorted()
                .toList();
        return of(
                caller,
                privileges,
                privileges.isEmpty()
                        ? "The module " + module.identity() + " is closed to all but administrators."
                        : "Nothing of the module " + module.identity() + " may be called with the roles of '"
                                + caller.name() + "'; its operations ask for " + named(privileges) + ".");
    }

    /** For somebody who may call another operation of the module. */
    static Refusal toOperation(Caller caller, Needs needs) {
        return of(
                caller,
                needs.anyOf(),
                needs.anyOf().isEmpty()
                        ? "The operation is closed to all but administrators."
                        : "The operation asks for " + named(needs.anyOf()) + ", which no role of '" + caller.name()
                                + "' holds.");
    }

    private static Refusal of(Caller caller, List<String> privileges, String detail) {
        return caller.isKnown()
                ? new Refusal(
                        Problem.of(ProblemKind.PRIVILEGE_NEEDED, detail),
                        Map.of("WWW-Authenticate", Challenge.scope(privileges)))
                : new Refusal(
                        ProblemKind.SIGN_IN_NEEDED,
                        "The call needs a credential; ask the module's owner for a key, and send it as 'Authorization: Bearer ...'.");
    }

    /** "the privilege 'a'", "one of the privileges 'a', 'b'" */
    private static String named(List<String> privileges) {
        String names = Stream.concat(
                        privileges.stream().limit(MOST_NAMED).map(name -> "'" + name + "'"),
                        privileges.size() > MOST_NAMED ? Stream.of("...") : Stream.of())
                .collect(Collectors.joining(", "));
        return (privileges.size() == 1 ? "the privilege " : "one of the privileges ") + names;
    }
}
