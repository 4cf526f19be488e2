package tidybridge.core.reference;

import static tidybridge.core.reference.OpenApi.map;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import tidybridge.core.contract.PageTerms;
import tidybridge.core.definition.FilterOperator;

/** The conditions that callers may put on a collection, each field as an OpenAPI parameter of the style {@code deepObject}. */
final class FilterParameters {

    private FilterParameters() {}

    static List<Map<String, Object>> of(List<PageTerms.FilterTerms> filters) {
        Map<String, List<PageTerms.FilterTerms>> fields = new LinkedHashMap<>();
        filters.forEach(filter -> fields.computeIfAbsent(filter.field(), field -> new ArrayList<>())
                .add(filter));
        List<Map<String, Object>> parameters = new ArrayList<>();
        fields.forEach((field, operators) -> parameters.add(parameter(field, operators)));
        return parameters;
    }

    private static Map<String, Object> parameter(String field, List<PageTerms.FilterTerms> operators) {
        Map<String, Object> properties = new LinkedHashMap<>();
        operators.forEach(filter -> properties.put(filter.operator().label(), schema(filter)));
        PageTerms.FilterTerms first = operators.getFirst();
        return map(
                "name",
                field,
                "in",
                "query",
                "description",
                "Only rows whose '" + field + "' compares so, as in "
                        + first.value().name() + "=... Several conditions must all hold.",
                "required",
                false,
                "style",
                "deepObject",
                "explode",
                true,
                "schema",
                map("type", "object", "additionalProperties", false, "properties", properties));
    }

    private static Map<String, Object> schema(PageTerms.FilterTerms filter) {
        if (filter.operator() == FilterOperator.IN) {
            return map(
                    "type",
                    "string",
                    "description",
                    filter.operator().about() + "; a comma inside of a value is written \\,");
        }
        Map<String, Object> schema = new LinkedHashMap<>(Schemas.parameter(filter.value()));
        schema.put("description", filter.operator().about());
        return schema;
    }
}
