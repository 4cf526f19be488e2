package tidybridge.service.run;

import tidybridge.core.finding.Code;
import tidybridge.core.finding.Finding;
import tidybridge.core.plan.OperationPlan;
import tidybridge.core.text.Place;

/** Something about an operation that only running it shows, and that its owner must hear of. */
public enum Notice {
    FORBIDDEN(
            Code.PRIVILEGE_MISSING,
            "The database forbids what the statement does, so callers get a 500.",
            "Grant the source's user what it needs."),
    TRANSACTION_ENDED(
            Code.ROUTINE_ENDS_TRANSACTION,
            "The procedure ended the transaction around it, so what it did stays even where the call fails later.",
            "Remove its COMMIT, or what commits by itself such as CREATE; or write 'transaction: routine' where it is meant."),
    RESULT_UNNAMED(
            Code.RESULT_UNNAMED,
            "The procedure returned a result set that the text does not name, and callers did not get it.",
            "Name it under 'results:', in the order the procedure returns them, or remove the query from the procedure.");

    private final Code code;
    private final String message;
    private final String remedy;

    Notice(Code code, String message, String remedy) {
        this.code = code;
        this.message = message;
        this.remedy = remedy;
    }

    /** What is said to the owner. */
    public Finding finding(OperationPlan plan) {
        String label = plan.label().substring(plan.header().module().length() + 1);
        return new Finding(code, Place.of(plan.header().sqlFile()), message, remedy, label, null);
    }
}
