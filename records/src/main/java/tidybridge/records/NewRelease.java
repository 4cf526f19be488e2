package tidybridge.records;

import tidybridge.core.definition.ModuleText;
import tidybridge.core.definition.Version;

/** A compiled module about to be published. */
public record NewRelease(String module, Version version, String source, ModuleText text) {}
