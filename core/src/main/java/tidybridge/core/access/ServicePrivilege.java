package tidybridge.core.access;

/** The privileges that guard the management API. */
public enum ServicePrivilege {
    /** Seeing modules, releases, sources and what they hold. */
    READ("tidy.read"),
    /** Running reads against a source, and seeing its rows. */
    TRY("tidy.try"),
    /** Running a change for real and having it undone. */
    REHEARSE("tidy.rehearse"),
    /** Having texts checked and completed. */
    EDIT("tidy.edit"),
    /** Making texts live. */
    PUBLISH("tidy.publish"),
    /** Reading the sources' definitions anew. */
    OPERATE("tidy.operate"),
    /** Giving people and client applications roles, and taking them away. */
    GIVE_ACCESS("tidy.give-access"),
    /** Giving client applications what their teams ask for, as far as whoever gives it holds it. */
    ANSWER_REQUESTS("tidy.answer-requests"),
    /** Taking all that the service remembers away as one file, its secrets among it. */
    BACK_UP("tidy.back-up");

    private final String privilege;

    ServicePrivilege(String privilege) {
        this.privilege = privilege;
    }

    /** The privilege as roles name it. */
    public String privilege() {
        return privilege;
    }
}
