package tidybridge.service;

import org.junit.jupiter.api.extension.AfterAllCallback;
import org.junit.jupiter.api.extension.BeforeAllCallback;
import org.junit.jupiter.api.extension.ExtensionContext;

/** A service of a test class's own with empty records and the demo's modules live; for whoever minds what else is published. */
final class DemoService implements BeforeAllCallback, AfterAllCallback {

    private final Class<?>[] parts;
    private RunningService running;

    /** Starts with parts of a test's own, of which there may be none. */
    DemoService(Class<?>... parts) {
        this.parts = parts;
    }

    RunningService running() {
        return running;
    }

    @Override
    public void beforeAll(ExtensionContext context) throws Exception {
        running = RunningService.fresh(parts);
        running.publishDemo();
    }

    @Override
    public void afterAll(ExtensionContext context) {
        running.close();
    }
}
