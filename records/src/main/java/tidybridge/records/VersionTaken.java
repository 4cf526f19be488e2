package tidybridge.records;

import tidybridge.core.definition.Version;

/** A version is released already with another text. */
public final class VersionTaken extends Exception {

    private final String module;
    private final Version version;

    public VersionTaken(String module, Version version) {
        super(module + " " + version + " is published already with another text");
        this.module = module;
        this.version = version;
    }

    public String module() {
        return module;
    }

    public Version version() {
        return version;
    }
}
