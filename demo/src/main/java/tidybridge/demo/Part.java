package tidybridge.demo;

/** A process the demo started. */
interface Part extends AutoCloseable {

    boolean isRunning();

    /** Starts it again after an end that may happen once in a while; false when it stays ended. */
    default boolean revive() {
        return false;
    }

    /** One sentence for the case that it ended by itself. */
    String ending();

    @Override
    void close();
}
