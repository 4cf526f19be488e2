package tidybridge.core.problem;

import java.util.Locale;
import java.util.Optional;

/** Every kind of error a caller can meet, with its HTTP status. The {@code type} of a problem document is {@link #type()}. */
public enum ProblemKind {
    BAD_INPUT(
            400,
            "Some inputs need mending",
            "One or more inputs are missing, malformed or unknown; 'errors' names each."),
    SIGN_IN_NEEDED(
            401, "Sign-in needed", "The call needs a credential that it did not carry, or one that is not valid here."),
    FACTOR_NEEDED(
            401,
            "Second factor needed",
            "Name and password are right; signing in needs the code that the authenticator shows as well."),
    NOT_ALLOWED(403, "Refused to this caller", "The call was understood, and is refused to this caller."),
    TLS_NEEDED(
            403,
            "Transport security needed",
            "The call came over a connection that others can read; repeat it with https."),
    PRIVILEGE_NEEDED(
            403,
            "A privilege is missing",
            "The caller is known, and holds none of the privileges that the call asks for; 'detail' names them."),
    MODULE_UNKNOWN(404, "No such module", "No module of that name and version is published."),
    ROUTE_UNKNOWN(404, "No such route", "The module has no route that matches the path; its reference lists them."),
    ROW_UNKNOWN(404, "Nothing found", "The route is right, and nothing is kept under the given identification."),
    METHOD_UNKNOWN(
            405,
            "Method not offered",
            "The route exists, and does not answer this method; 'Allow' names those it does."),
    FORMAT_UNKNOWN(406, "Format not offered", "The answer cannot be given in any format that 'Accept' names."),
    BODY_SLOW(408, "Body too slow", "The request's body came more slowly than this service waits for."),
    CONFLICT(409, "In conflict with what is there", "The request cannot be combined with what is already recorded."),
    CONTRACT_BROKEN(
            409,
            "Callers were promised something else",
            "The text breaks what callers were promised, or its version does not tell how much it changes; 'modules' names each difference."),
    REVIEW_NEEDED(
            409,
            "Not approved yet",
            "The module asks for a second person who approves what is published of it; 'modules' tells how far each is."),
    STILL_RUNNING(
            409,
            "The same request is under way",
            "A request with the same Idempotency-Key is being answered, or its outcome is not known yet; ask again in a moment."),
    GONE(410, "Ended", "What was called has ended, as its answers announced; 'detail' names what takes its place."),
    STATE_CHANGED(
            412,
            "Changed in the meantime",
            "The state the request speaks of is not the one that is there; read it again, then repeat the change."),
    BODY_TOO_LARGE(413, "Body too large", "The request's body is larger than this service accepts."),
    URL_TOO_LONG(414, "Address too long", "The request's address is longer than this service reads."),
    BODY_UNKNOWN(415, "Body format not offered", "The request's body is in a format this call does not read."),
    HOST_UNKNOWN(421, "Not this service's name", "The request names a host that this service does not answer for."),
    RULE_BROKEN(
            422,
            "Refused by a rule",
            "A rule of the data refuses what was asked; 'detail' is the rule's own sentence."),
    VALUE_UNFIT(
            400,
            "A value cannot be kept",
            "The database cannot keep one of the values; the reference tells how long or large each may be."),
    TOO_MANY_CHANGES(
            422,
            "Too much would change",
            "The request would change more rows than the call allows at once; nothing was changed."),
    KEY_REUSED(
            422,
            "Idempotency key used before",
            "The Idempotency-Key was sent before with another request; choose a new one for each."),
    UNFIT(422, "Not publishable", "The text was read, and has findings that must be mended first."),
    STATE_NEEDED(
            428,
            "Say which state you change",
            "The call changes only what its caller has seen; send the entity tag of a read in If-Match."),
    TOO_MANY_TRIES(
            429,
            "Too many tries",
            "Signing in failed too often; 'Retry-After' tells how many seconds to wait before the next try."),
    QUOTA_USED_UP(
            429,
            "Quota used up",
            "The caller, or all callers together, called as often as they may; 'Retry-After' tells how many seconds to wait."),
    HEADERS_TOO_LARGE(431, "Headers too large", "The request's header fields are larger than this service reads."),
    FAILED(500, "The call failed", "Something is wrong on this side; the log of the service tells the owner more."),
    PARTLY_DONE(
            500,
            "Not all of it is undone",
            "The call failed, and what the procedure behind it did until then is kept; look what is there before repeating it."),
    SOURCE_UNAVAILABLE(
            503,
            "The database does not answer",
            "The database behind the call cannot be reached or has no free connection; try again later."),
    BUSY(
            503,
            "Too much at once",
            "The service does as much of this at a time as it may; nothing was done, try again in a moment."),
    ROWS_BUSY(
            503,
            "The data is busy",
            "Others were changing the same data for too long; nothing was changed, try again in a moment."),
    OUTCOME_UNKNOWN(
            503,
            "Outcome not known",
            "The connection to the database broke while the change was being made final; look whether it was made before repeating it, or repeat it with the same Idempotency-Key."),
    CODING_UNKNOWN(
            501,
            "Transfer coding not known",
            "The request's body is coded for its way in a form that this service does not read; send it chunked or with its length."),
    STATEMENT_TIMEOUT(
            504,
            "The database took too long",
            "The statement was stopped at its time limit; ask for less, or narrow the search."),
    VERSION_UNKNOWN(
            505,
            "HTTP version not known",
            "The request names a version of HTTP that this service does not speak; send HTTP/1.1.");

    private final int status;
    private final String title;
    private final String meaning;

    ProblemKind(int status, String title, String meaning) {
        this.status = status;
        this.title = title;
        this.meaning = meaning;
    }

    public int status() {
        return status;
    }

    public String title() {
        return title;
    }

    /** One or two sentences for the page behind the {@code type}. */
    public String meaning() {
        return meaning;
    }

    /** What a caller does about it, for the page behind the {@code type}. */
    public String remedy() {
        return Remedies.of(this);
    }

    /** The word that names this kind, such as {@code bad-input}. */
    public String label() {
        return name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** The URI reference that identifies this kind, and leads to its explanation on the same service. */
    public String type() {
        return "/problems/" + label();
    }

    /** Finds a kind by its label. */
    public static Optional<ProblemKind> labelled(String label) {
        for (ProblemKind kind : values()) {
            if (kind.label().equals(label)) {
                return Optional.of(kind);
            }
        }
        return Optional.empty();
    }

    /** True for what may pass by itself in a moment, so that {@code Retry-After} is sent with it. */
    public boolean isWorthRepeating() {
        return this == SOURCE_UNAVAILABLE || this == BUSY || this == ROWS_BUSY || this == STILL_RUNNING;
    }

    /** The kind of a refusal that a definition gave its status. */
    public static ProblemKind ofRefusal(int status) {
        return switch (status) {
            case 404 -> ROW_UNKNOWN;
            case 409 -> CONFLICT;
            default -> status >= 500 ? FAILED : RULE_BROKEN;
        };
    }

    /** The kind that says most about a bare HTTP status. */
    public static ProblemKind ofStatus(int status) {
        for (ProblemKind kind : values()) {
            if (kind.status == status) {
                return kind;
            }
        }
        if (status == 404) {
            return ROUTE_UNKNOWN;
        }
        return status >= 500 ? FAILED : BAD_INPUT;
    }
}
