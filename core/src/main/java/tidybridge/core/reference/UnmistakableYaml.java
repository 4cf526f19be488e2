package tidybridge.core.reference;

import java.util.regex.Pattern;
import org.snakeyaml.engine.v2.api.DumpSettings;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.Tag;
import org.snakeyaml.engine.v2.representer.StandardRepresenter;

/** Writes texts so that readers of YAML 1.1, too, take them for texts: a date, a time or a word such as {@code no} is quoted. */
final class UnmistakableYaml extends StandardRepresenter {

    private static final Pattern MISTAKABLE =
            Pattern.compile("[-+]?[0-9][0-9_]*(\\.[0-9_]*)?([eE][-+]?[0-9]+)?|[-+]?\\.[0-9_]+"
                    + "|0[xob][0-9A-Fa-f_]+|[-+]?[0-9]+(:[0-5]?[0-9])+(\\.[0-9_]*)?|[0-9]{4}-[0-9]{1,2}-[0-9]{1,2}.*"
                    + "|(?i:y|n|yes|no|on|off|true|false|null|~|\\.nan|[-+]?\\.inf)|=|<<");

    UnmistakableYaml(DumpSettings settings) {
        super(settings);
        representers.put(String.class, this::text);
    }

    private Node text(Object value) {
        String text = (String) value;
        return MISTAKABLE.matcher(text).matches()
                ? representScalar(Tag.STR, text, ScalarStyle.SINGLE_QUOTED)
                : representScalar(Tag.STR, text, text.contains("\n") ? ScalarStyle.LITERAL : ScalarStyle.PLAIN);
    }
}
