package tidybridge.demo;

/** A process the demo started. */
interface Part extends AutoCloseable {

    boolean isRunning();

    /** One sentence for the case that it ended by itself. */
    String ending();

    @Override
    void close();
}
