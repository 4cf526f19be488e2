package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import java.util.List;
import tidybridge.core.bind.Caller;
import tidybridge.core.problem.ProblemKind;
import tidybridge.service.run.Refusal;

/** Until roles are given out, the administrator holds every privilege and everybody else none. */
public final class AdministratorOnly implements Gatekeeper {

    private final Administrator administrator;
    private final Sessions sessions;

    public AdministratorOnly(Administrator administrator, Sessions sessions) {
        this.administrator = administrator;
        this.sessions = sessions;
    }

    @Override
    public Caller identify(HttpServletRequest request) {
        String address = request.getRemoteAddr();
        return isAdministrator(request)
                ? new Caller("administrator", null, List.of(), address, privilege -> true)
                : Caller.unknown(address);
    }

    @Override
    public void admit(HttpServletRequest request, Needs needs) throws Refusal {
        String credential = request.getHeader("Authorization");
        if (credential != null && !administrator.admits(credential)) {
            throw new Refusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    "The credential in 'Authorization' is not valid here; send another"
                            + (needs.open() ? ", or none: this module is open." : "."));
        }
        if (!needs.open() && !isAdministrator(request)) {
            throw new Refusal(
                    ProblemKind.SIGN_IN_NEEDED,
                    "The module " + needs.module() + " is closed; ask its owner for access.");
        }
    }

    private boolean isAdministrator(HttpServletRequest request) {
        return administrator.admits(request.getHeader("Authorization"))
                || sessions.admits(request) && OwnPages.sent(request);
    }
}
