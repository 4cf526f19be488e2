package tidybridge.records;

/** The record store cannot be used; the message is one sentence fit for the operator. */
public final class RecordsFailure extends RuntimeException {

    RecordsFailure(String sentence) {
        super(sentence);
    }

    RecordsFailure(String sentence, Throwable cause) {
        super(sentence, cause);
    }
}
