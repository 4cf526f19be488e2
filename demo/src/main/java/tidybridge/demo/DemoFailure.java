package tidybridge.demo;

/** Something a person must see to before the demo can run; the message is one sentence that says what. */
public final class DemoFailure extends RuntimeException {

    public DemoFailure(String sentence) {
        super(sentence);
    }

    public DemoFailure(String sentence, Throwable cause) {
        super(sentence, cause);
    }
}
