package tidybridge.service.traffic;

/** Is told of every call of the gateway when it has ended. Called by the thread that answered, so it must be quick; thread-safe. */
@FunctionalInterface
public interface CallObserver {

    /** Looks at nothing. */
    CallObserver NONE = record -> {};

    void ended(CallRecord record);
}
