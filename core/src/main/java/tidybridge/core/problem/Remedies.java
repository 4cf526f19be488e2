package tidybridge.core.problem;

/** What a caller does about each kind of problem, in a sentence or two. */
final class Remedies {

    private Remedies() {}

    static String of(ProblemKind kind) {
        return switch (kind) {
            case BAD_INPUT ->
                "Look at 'errors': each names one input by its parameter or its place in the body, and says what it must be. Mend all of them, and send the request again.";
            case SIGN_IN_NEEDED ->
                "Send a valid key or token as 'Authorization: Bearer ...'. A token is valid for ten minutes; get another one with your key. Ask the module's owner when your key has ended.";
            case FACTOR_NEEDED -> "Send the code that your authenticator shows, beside name and password.";
            case NOT_ALLOWED ->
                "'detail' says why. Ask the module's owner to let you call from where you are, or call from where you may.";
            case TLS_NEEDED ->
                "Call the same address with https. Have a credential replaced that was sent without it: others may have read it.";
            case PRIVILEGE_NEEDED ->
                "Ask the module's owner for one of the privileges that 'detail' names. Where you call with a token, ask for the privilege as its scope.";
            case MODULE_UNKNOWN -> "Compare the name and the version in the address with the directory.";
            case ROUTE_UNKNOWN ->
                "Compare the path with the module's reference; upper and lower case are not the same in it.";
            case ROW_UNKNOWN ->
                "Look in the collection for what is there now. What you asked for may have been deleted, or never was there.";
            case METHOD_UNKNOWN -> "Use one of the methods that the 'Allow' field names.";
            case FORMAT_UNKNOWN ->
                "Ask in 'Accept' for one of the formats that the reference names, or leave the field out.";
            case BODY_SLOW -> "Send the body faster, or less at once, and repeat the request.";
            case CONFLICT ->
                "Read what is there now, decide anew, and send another request: the same one would be refused again.";
            case CONTRACT_BROKEN ->
                "Publish it under the version that 'modules' names, or give the reason why callers must live with what breaks.";
            case REVIEW_NEEDED -> "Ask for a review, and have somebody else approve it.";
            case STILL_RUNNING ->
                "Wait as long as 'Retry-After' says, and send the same request with the same Idempotency-Key.";
            case GONE -> "Call what 'detail' and the 'Link' field name in its place.";
            case STATE_CHANGED ->
                "Read it again, look whether your change still makes sense, and send it with the new ETag in 'If-Match'.";
            case BODY_TOO_LARGE -> "Send less at once: many rows go in several requests.";
            case URL_TOO_LONG ->
                "Shorten the query: ask for fewer values at once, or send them in a body where the reference offers that.";
            case BODY_UNKNOWN ->
                "Say in 'Content-Type' what the reference names, usually application/json, and send the body so.";
            case HOST_UNKNOWN ->
                "Call the service by the name that you were given. Its operator can add another name to tidy.names.";
            case RULE_BROKEN -> "Change the values so that the rule is kept; 'detail' is its own sentence.";
            case VALUE_UNFIT -> "Send a shorter or smaller value; the reference tells the limits of each.";
            case TOO_MANY_CHANGES ->
                "Narrow the request so that it meets fewer rows. Where the reference offers preview=count, it tells how many there are.";
            case KEY_REUSED ->
                "Make a new Idempotency-Key for each new request, and use one again only to repeat the very same request.";
            case UNFIT -> "Mend each finding that is an error, and publish again.";
            case STATE_NEEDED -> "Read it first, and send the ETag of that answer in 'If-Match'.";
            case TOO_MANY_TRIES -> "Wait as long as 'Retry-After' says.";
            case QUOTA_USED_UP ->
                "Wait as long as 'Retry-After' says. The 'RateLimit' field of every answer tells beforehand how many calls are left.";
            case HEADERS_TOO_LARGE ->
                "Send fewer or shorter header fields; cookies that belong elsewhere are often the cause.";
            case FAILED ->
                "Nothing in your request is to blame. Give the request id to the module's owner, who finds the cause by it.";
            case PARTLY_DONE ->
                "Look what is there before you send it again, and give the request id to the module's owner.";
            case SOURCE_UNAVAILABLE -> "Wait as long as 'Retry-After' says, and send it again.";
            case BUSY, ROWS_BUSY ->
                "Wait as long as 'Retry-After' says, and send it again; when it is refused again, wait longer each time.";
            case OUTCOME_UNKNOWN ->
                "Send the same request with the same Idempotency-Key: it is done once. Without one, look first whether the change was made.";
            case CODING_UNKNOWN -> "Send the body with its length, or chunked.";
            case STATEMENT_TIMEOUT ->
                "Ask for less: a smaller page, a narrower filter, no exact total. Tell the module's owner when small requests take too long as well.";
            case VERSION_UNKNOWN -> "Send the request in HTTP/1.1.";
        };
    }
}
