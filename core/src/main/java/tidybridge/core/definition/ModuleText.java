package tidybridge.core.definition;

import java.util.Map;
import java.util.SortedMap;
import java.util.TreeMap;
import tidybridge.core.text.SourceText;

/**
 * The whole text of a module as it travels and is kept: file paths inside the module's folder, with their contents.
 *
 * @param folder where the module lies in its workspace, such as {@code modules/moorings/v1}; places start with it
 */
public record ModuleText(String folder, SortedMap<String, String> files) {

    /** The file every module starts from. */
    public static final String MAIN = "module.yaml";

    public ModuleText(String folder, Map<String, String> files) {
        this(folder, new TreeMap<>(files));
    }

    public ModuleText {
        files = java.util.Collections.unmodifiableSortedMap(new TreeMap<>(files));
    }

    /** True for Markdown that the reference shows beside the operations. */
    public static boolean isGuide(String file) {
        return file.startsWith("guides/") && file.endsWith(".md") && file.indexOf('/', "guides/".length()) < 0;
    }

    /** A file's text, with the path that findings show. */
    public SourceText source(String file) {
        String text = files.get(file);
        if (text == null) {
            throw new IllegalArgumentException("no such file: " + file);
        }
        return new SourceText(folder.isEmpty() ? file : folder + "/" + file, text);
    }
}
