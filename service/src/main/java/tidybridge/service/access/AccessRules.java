package tidybridge.service.access;

import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.access.Holdings;
import tidybridge.core.access.Role;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.text.Nearest;
import tidybridge.records.AuditEntry;
import tidybridge.service.run.Refusal;

/** What holds for every change of access, and how it is refused. */
final class AccessRules {

    /** The longest name of somebody, in characters. */
    static final int LONGEST_NAME = 120;

    /** The longest sentence about something, in characters. */
    static final int LONGEST_ABOUT = 500;

    private static final int MOST_ROLES = 50;

    private AccessRules() {}

    /** What is written down of a change. */
    static AuditEntry entry(Instant at, Visitor by, String action, String subject, String detail) {
        return new AuditEntry(at, by.who(), by.caller().address(), action, subject, detail);
    }

    /** Those that are given must be known, and may be given; those that are taken away may be taken. */
    static void checkRoles(AccessBook book, List<String> roles, List<String> before, Visitor by) throws Refusal {
        if (roles.size() > MOST_ROLES) {
            throw unfit("Nobody has more than " + MOST_ROLES + " roles; put their privileges together.");
        }
        for (String role : roles) {
            if (book.role(role) == null) {
                throw unfit("There is no role '" + role + "'."
                        + Nearest.hint(
                                role, book.roles().stream().map(Role::name).toList()));
            }
            if (!before.contains(role)) {
                checkMayGive(book.holdings(List.of(role)), by);
            }
        }
        for (String role : before) {
            if (!roles.contains(role)) {
                checkMayGive(book.holdings(List.of(role)), by);
            }
        }
    }

    /** Nobody gives, or takes, a privilege of the service's own without holding it. */
    static void checkMayGive(Holdings given, Visitor by) throws Refusal {
        Holdings own = by.caller().privileges();
        if (given == Holdings.ALL && own != Holdings.ALL) {
            throw new Refusal(ProblemKind.NOT_ALLOWED, "Only an administrator gives, or takes, every privilege.");
        }
        for (ServicePrivilege privilege : ServicePrivilege.values()) {
            if (given.test(privilege.privilege()) && !by.holds(privilege)) {
                throw DeskPrivileges.missing(
                        privilege,
                        by,
                        "Who gives the privilege '" + privilege.privilege()
                                + "', or takes it away, must hold it: this");
            }
        }
    }

    static void checkLength(String field, @Nullable String text, int most) throws Refusal {
        if (text != null && text.length() > most) {
            throw unfit("'" + field + "' has at most " + most + " characters.");
        }
    }

    static Refusal unfit(String detail) {
        return new Refusal(ProblemKind.BAD_INPUT, detail);
    }

    static Refusal conflict(String detail) {
        return new Refusal(ProblemKind.CONFLICT, detail);
    }

    static Refusal unknown(String what, String name, List<String> known) {
        return new Refusal(
                ProblemKind.ROW_UNKNOWN, "There is no " + what + " '" + name + "'." + Nearest.hint(name, known));
    }
}
