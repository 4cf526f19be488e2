package tidybridge.core.definition;

import java.util.Collection;
import java.util.Set;
import java.util.TreeSet;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.node.ArrayNode;
import tools.jackson.databind.node.ObjectNode;

/**
 * The JSON Schema of one module's text, by which editors complete what the general one cannot know: the statements beside it, and the sources of its
 * workspace. Other words stay allowed, because files are named before they are written.
 */
public final class ModuleSchema {

    /** The file's name beside {@code module.yaml}. */
    public static final String FILE = DefinitionSchema.MODULE.file();

    private static final JsonMapper JSON = JsonMapper.shared();

    private ModuleSchema() {}

    /**
     * Makes it.
     *
     * @param files those of the module
     * @param sources the names that its workspace defines
     * @return the schema's text
     */
    public static String of(Collection<String> files, Collection<String> sources) {
        ObjectNode schema = (ObjectNode) JSON.readTree(DefinitionSchema.MODULE.bytes());
        Set<String> statements = new TreeSet<>();
        files.stream().filter(file -> file.endsWith(".sql")).forEach(statements::add);
        for (String place : new String[] {"/$defs/operation/properties/sql", "/$defs/step/properties/sql"}) {
            complete(schema.at(place), statements);
        }
        complete(schema.at("/properties/source"), new TreeSet<>(sources));
        return JSON.writerWithDefaultPrettyPrinter().writeValueAsString(schema) + "\n";
    }

    private static void complete(JsonNode place, Set<String> words) {
        if (place instanceof ObjectNode text && !words.isEmpty()) {
            ArrayNode forms = text.putArray("anyOf");
            ArrayNode known = forms.addObject().putArray("enum");
            words.forEach(known::add);
            forms.addObject().put("type", "string");
        }
    }
}
