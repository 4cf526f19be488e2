package tidybridge.core.contract;

import com.fasterxml.jackson.annotation.JsonInclude;
import tidybridge.core.definition.Version;
import tools.jackson.core.JacksonException;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.JsonParser;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.databind.DeserializationContext;
import tools.jackson.databind.DeserializationFeature;
import tools.jackson.databind.MapperFeature;
import tools.jackson.databind.SerializationContext;
import tools.jackson.databind.cfg.EnumFeature;
import tools.jackson.databind.deser.std.StdDeserializer;
import tools.jackson.databind.json.JsonMapper;
import tools.jackson.databind.module.SimpleModule;
import tools.jackson.databind.ser.std.StdSerializer;

/** Contracts as they are kept: JSON whose names are those of the records. What is null is left out; what is not known is passed over. */
final class ContractText {

    private static final JsonMapper JSON = JsonMapper.builder()
            .addModule(new SimpleModule()
                    .addSerializer(Version.class, new VersionWriter())
                    .addDeserializer(Version.class, new VersionReader()))
            .changeDefaultPropertyInclusion(usual -> usual.withValueInclusion(JsonInclude.Include.NON_NULL))
            .enable(EnumFeature.WRITE_ENUMS_TO_LOWERCASE)
            .enable(MapperFeature.ACCEPT_CASE_INSENSITIVE_ENUMS)
            .enable(StreamWriteFeature.WRITE_BIGDECIMAL_AS_PLAIN)
            .disable(DeserializationFeature.FAIL_ON_UNKNOWN_PROPERTIES)
            .build();

    private ContractText() {}

    static String write(Record data) {
        return JSON.writeValueAsString(data);
    }

    static Contract read(String text) {
        Contract contract = read(text, Contract.class);
        if (contract.form() > Contract.FORM) {
            throw new IllegalArgumentException("The contract was made by a newer program than this one.");
        }
        return contract;
    }

    static CatalogFacts readFacts(String text) {
        return read(text, CatalogFacts.class);
    }

    private static <T> T read(String text, Class<T> type) {
        try {
            T read = JSON.readValue(text, type);
            if (read != null) {
                return read;
            }
        } catch (JacksonException e) {
            throw new IllegalArgumentException("This is no " + type.getSimpleName() + ": " + e.getOriginalMessage(), e);
        }
        throw new IllegalArgumentException("This is no " + type.getSimpleName() + ".");
    }

    private static final class VersionWriter extends StdSerializer<Version> {
        VersionWriter() {
            super(Version.class);
        }

        @Override
        public void serialize(Version version, JsonGenerator json, SerializationContext context) {
            json.writeString(version.toString());
        }
    }

    private static final class VersionReader extends StdDeserializer<Version> {
        VersionReader() {
            super(Version.class);
        }

        @Override
        public Version deserialize(JsonParser json, DeserializationContext context) {
            String text = json.getString();
            return Version.parse(text == null ? "" : text)
                    .orElseThrow(() -> new IllegalArgumentException("'" + text + "' is no version"));
        }
    }
}
