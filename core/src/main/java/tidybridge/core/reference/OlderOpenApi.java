package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tools.jackson.databind.SerializationFeature;
import tools.jackson.databind.json.JsonMapper;

/**
 * The same description for programs that do not read OpenAPI 3.1: as OpenAPI 3.0.3, which has a dialect of JSON Schema of its own, and its
 * schemas alone as JSON Schema 2020-12.
 */
public final class OlderOpenApi {

    private static final JsonMapper JSON =
            JsonMapper.builder().enable(SerializationFeature.INDENT_OUTPUT).build();

    private static final String NULL = "null";

    private OlderOpenApi() {}

    /**
     * OpenAPI 3.0.3 as JSON in UTF-8.
     *
     * @param origin where the service is for whoever asks
     */
    public static byte[] json(Contract contract, String origin) {
        Map<String, Object> older = older(OpenApi.document(contract));
        older.put("openapi", "3.0.3");
        older.put("servers", List.of(map("url", origin + contract.basePath())));
        at(older, "components", "securitySchemes", OpenApi.OAUTH, "flows", "clientCredentials")
                .put("tokenUrl", origin + OpenApi.TOKEN_PATH);
        return JSON.writeValueAsBytes(older);
    }

    @SuppressWarnings("unchecked")
    private static Map<String, Object> at(Map<String, Object> map, String... keys) {
        Map<String, Object> at = map;
        for (String key : keys) {
            at = (Map<String, Object>) at.computeIfAbsent(key, name -> map());
        }
        return at;
    }

    /**
     * The schemas of rows, pages and problems as one document of JSON Schema 2020-12, each under {@code $defs}.
     *
     * @param id where the document is
     */
    public static byte[] schemas(Contract contract, String id) {
        Object components = OpenApi.document(contract).get("components");
        Object schemas = components instanceof Map<?, ?> some ? some.get("schemas") : null;
        return JSON.writeValueAsBytes(map(
                "$schema",
                "https://json-schema.org/draft/2020-12/schema",
                "$id",
                id,
                "title",
                contract.title(),
                "$defs",
                schemas == null ? Map.of() : referring(schemas)));
    }

    private static Object referring(Object value) {
        return switch (value) {
            case Map<?, ?> all -> {
                Map<String, Object> changed = new LinkedHashMap<>();
                all.forEach((key, inner) -> changed.put(
                        String.valueOf(key),
                        "$ref".equals(key) && inner instanceof String target
                                ? target.replace("#/components/schemas/", "#/$defs/")
                                : referring(inner)));
                yield changed;
            }
            case List<?> list -> list.stream().map(OlderOpenApi::referring).toList();
            default -> value;
        };
    }

    private static Map<String, Object> older(Map<?, ?> all) {
        Map<String, Object> changed = new LinkedHashMap<>();
        all.forEach((key, value) -> changed.put(String.valueOf(key), inner(String.valueOf(key), value)));
        return changed;
    }

    private static @Nullable Object inner(String key, @Nullable Object value) {
        return switch (value) {
            case Map<?, ?> schema
            when key.equals("schema") || key.equals("items") || key.equals("additionalProperties") -> schema(schema);
            case Map<?, ?> schemas
            when key.equals("schemas") || key.equals("properties") -> {
                Map<String, Object> changed = new LinkedHashMap<>();
                schemas.forEach((name, schema) -> changed.put(String.valueOf(name), schema((Map<?, ?>) schema)));
                yield changed;
            }
            // what was sent or answered is shown as it is
            case Map<?, ?> example when key.equals("example") || key.equals("examples") -> example;
            case Map<?, ?> more -> older(more);
            case List<?> list -> {
                List<@Nullable Object> changed = new ArrayList<>();
                list.forEach(item -> changed.add(item instanceof Map<?, ?> some ? older(some) : item));
                yield changed;
            }
            case null -> null;
            default -> value;
        };
    }

    /** A schema in the words of OpenAPI 3.0. */
    private static Map<String, Object> schema(Map<?, ?> schema) {
        if (schema.get("$ref") != null) {
            return map("$ref", schema.get("$ref"));
        }
        Map<String, Object> changed = older(schema);
        types(changed);
        limit(changed, "exclusiveMinimum", "minimum");
        limit(changed, "exclusiveMaximum", "maximum");
        if (schema.get("examples") instanceof List<?> examples && !examples.isEmpty()) {
            changed.put("example", examples.getFirst());
        }
        changed.remove("examples");
        Object only = changed.remove("const");
        if (only != null) {
            changed.put("enum", List.of(only));
        }
        if ("base64".equals(changed.remove("contentEncoding"))) {
            changed.put("format", "byte");
        }
        return changed;
    }

    /** Of several types, one with or without null has a word; others are any type. */
    private static void types(Map<String, Object> schema) {
        if (!(schema.get("type") instanceof List<?> types)) {
            return;
        }
        List<?> others = types.stream().filter(type -> !NULL.equals(type)).toList();
        if (others.size() == 1) {
            schema.put("type", others.getFirst());
            schema.put("nullable", true);
        } else {
            schema.remove("type");
            schema.remove("items");
        }
    }

    private static void limit(Map<String, Object> schema, String exclusive, String inclusive) {
        if (schema.get(exclusive) instanceof Number limit) {
            Object other = schema.get(inclusive);
            boolean stricter = other == null
                    || new BigDecimal(other.toString()).compareTo(new BigDecimal(limit.toString()))
                                    * (inclusive.equals("minimum") ? 1 : -1)
                            <= 0;
            if (stricter) {
                schema.put(inclusive, limit);
                schema.put(exclusive, true);
            } else {
                schema.remove(exclusive);
            }
        }
    }
}
