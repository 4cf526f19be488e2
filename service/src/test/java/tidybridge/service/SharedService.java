package tidybridge.service;

import tidybridge.demo.Until;

/**
 * One running service for all test classes that only call it, with a record store of its own. The first one starts it, and it ends with the
 * tests. Whoever stops a service, empties its records or kills its database starts one by themselves with {@link RunningService}.
 */
final class SharedService {

    private static RunningService service;

    private SharedService() {}

    /** It has its records: the class before may have ended a server that it shares, and a busy machine is slow to come back to it. */
    static synchronized RunningService get() {
        try {
            if (service == null) {
                service = RunningService.apart("tidy_records_shared");
            }
            RunningService running = service;
            Until.holds(() -> running.desk("/desk/roles").statusCode() == 200
                    && running.desk("/desk/drafts").statusCode() == 200);
            return running;
        } catch (Exception e) {
            throw new IllegalStateException("the shared service does not answer", e);
        }
    }
}
