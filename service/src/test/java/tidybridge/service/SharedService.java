package tidybridge.service;

/**
 * One running service for all test classes that only call it, with a record store of its own. The first one starts it, and it ends with the
 * tests. Whoever stops a service, empties its records or kills its database starts one by themselves with {@link RunningService}.
 */
final class SharedService {

    private static RunningService service;

    private SharedService() {}

    static synchronized RunningService get() {
        if (service == null) {
            try {
                service = RunningService.apart("tidy_records_shared");
            } catch (Exception e) {
                throw new IllegalStateException("the shared service could not be started", e);
            }
        }
        return service;
    }
}
