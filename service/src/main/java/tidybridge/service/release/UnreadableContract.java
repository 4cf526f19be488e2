package tidybridge.service.release;

import tidybridge.records.ReleaseEntry;

/** What a release promised cannot be read here, so that nothing can be compared with it. */
public final class UnreadableContract extends RuntimeException {

    UnreadableContract(ReleaseEntry release, IllegalArgumentException cause) {
        super(
                "What " + release.module() + " " + release.version() + " promised cannot be read by this node: "
                        + cause.getMessage() + " Nothing was changed; publish on a node of the newest version.",
                cause);
    }
}
