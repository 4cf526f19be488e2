package tidybridge.core.sample;

import tools.jackson.core.util.DefaultIndenter;
import tools.jackson.core.util.DefaultPrettyPrinter;
import tools.jackson.core.util.Separators;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.cfg.JsonNodeFeature;
import tools.jackson.databind.json.JsonMapper;

/** JSON in lines for people. Numbers keep every digit they have, zeros at their end too. */
public final class JsonLines {

    private static final JsonMapper JSON = JsonMapper.builder()
            .enable(DeserializationFeature.USE_BIG_DECIMAL_FOR_FLOATS)
            .disable(JsonNodeFeature.STRIP_TRAILING_BIGDECIMAL_ZEROES)
            .defaultPrettyPrinter(new DefaultPrettyPrinter(
                            Separators.createDefaultInstance().withObjectNameValueSpacing(Separators.Spacing.AFTER))
                    .withArrayIndenter(DefaultIndenter.SYSTEM_LINEFEED_INSTANCE.withLinefeed("\n"))
                    .withObjectIndenter(DefaultIndenter.SYSTEM_LINEFEED_INSTANCE.withLinefeed("\n")))
            .build();

    private JsonLines() {}

    /** A text of JSON in lines. */
    public static String of(String json) {
        return of(JSON.readTree(json));
    }

    /** The same of what was made here. */
    static String of(JsonNode json) {
        return JSON.writerWithDefaultPrettyPrinter().writeValueAsString(json);
    }
}
