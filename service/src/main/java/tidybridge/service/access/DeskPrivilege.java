package tidybridge.service.access;

import jakarta.servlet.http.HttpServletRequest;
import java.util.Set;

/** What somebody needs for those parts of the management API that not everybody who may look should use. */
public enum DeskPrivilege {
    /** Running a change for real and having it undone. */
    REHEARSE("tidy.rehearse");

    private static final String ATTRIBUTE = DeskPrivilege.class.getName();

    private final String privilege;

    DeskPrivilege(String privilege) {
        this.privilege = privilege;
    }

    /** The privilege as roles name it. */
    public String privilege() {
        return privilege;
    }

    /** Notes what whoever sent a request holds; the administrator holds everything. */
    static void grant(HttpServletRequest request, Set<DeskPrivilege> held) {
        request.setAttribute(ATTRIBUTE, Set.copyOf(held));
    }

    /** True when whoever sent the request holds it. */
    public boolean isHeld(HttpServletRequest request) {
        return request.getAttribute(ATTRIBUTE) instanceof Set<?> held && held.contains(this);
    }
}
