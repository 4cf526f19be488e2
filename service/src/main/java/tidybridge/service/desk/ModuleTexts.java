package tidybridge.service.desk;

import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.problem.ProblemKind;

/** Reads the texts of modules from requests. */
final class ModuleTexts {

    private ModuleTexts() {}

    /** A module's text as it travels. */
    record TextView(@Nullable String folder, @Nullable Map<String, String> files) {}

    static List<ModuleText> of(@Nullable List<TextView> modules) {
        if (modules == null || modules.isEmpty()) {
            throw new DeskRefusal(
                    ProblemKind.BAD_INPUT, "The request names no modules; send 'modules' with at least one.");
        }
        List<ModuleText> texts = new ArrayList<>();
        for (@Nullable TextView text : modules) {
            Map<String, String> files = text == null ? null : text.files();
            if (text == null || files == null || !files.containsKey(ModuleText.MAIN) || files.containsValue(null)) {
                throw new DeskRefusal(
                        ProblemKind.BAD_INPUT,
                        "Each module needs 'files' with " + ModuleText.MAIN + " and its statements.");
            }
            texts.add(new ModuleText(text.folder() == null ? "" : text.folder(), files));
        }
        return texts;
    }
}
