package tidybridge.service.reference;

import org.jspecify.annotations.Nullable;
import tidybridge.core.sample.RecordedExample;

/**
 * A real answer, as far as whoever reads may see it.
 *
 * @param recorded null when there is none, or it is hidden
 * @param hidden true when there is one for those only who may call the operation
 */
public record ExampleView(@Nullable RecordedExample recorded, boolean hidden) {}
