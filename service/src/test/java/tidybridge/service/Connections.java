package tidybridge.service;

import tidybridge.demo.Until;
import tidybridge.engine.Source;
import tidybridge.engine.Sources;

/** The connections that a service has to its sources. */
final class Connections {

    private Connections() {}

    /**
     * Every connection comes back. An answer leaves before its connection is as new, and a look at the databases that nobody called for holds
     * one for a moment, so that only one which stays away is lost.
     */
    static void assertComeBack(RunningService service) throws Exception {
        for (Source source : service.context().getBean(Sources.class).all()) {
            Until.seen(source::busy, busy -> busy == 0);
        }
    }
}
