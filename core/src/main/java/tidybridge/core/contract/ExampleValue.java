package tidybridge.core.contract;

import java.math.BigDecimal;
import java.util.Arrays;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterType;
import tools.jackson.core.JacksonException;
import tools.jackson.databind.json.JsonMapper;

/** Values that a text gives as texts, as JSON has them: maps, lists, texts, numbers and booleans. */
public final class ExampleValue {

    private ExampleValue() {}

    /** The example of an input; null when there is none. */
    public static @Nullable Object of(InputTerms input) {
        String text = input.example();
        ListTerms list = input.list();
        if (text == null) {
            return null;
        }
        if (input.type() == ParameterType.OBJECT) {
            return json(text);
        }
        if (list != null && list.type() == ParameterType.OBJECT) {
            return json("[" + text + "]");
        }
        return list == null
                ? typed(input.type(), text)
                : Arrays.stream(text.split(","))
                        .map(item -> typed(list.type(), item))
                        .toList();
    }

    /** A text that is no JSON stays one: releases of earlier days may have such examples. */
    private static Object json(String text) {
        try {
            return JsonMapper.shared().readValue(text, Object.class);
        } catch (JacksonException e) {
            return text;
        }
    }

    /** A value that was checked to fit its type. */
    public static Object typed(ParameterType type, String text) {
        return switch (type) {
            case INTEGER, NUMBER -> plain(new BigDecimal(text));
            case BOOLEAN -> Boolean.valueOf(text);
            case STRING, DATE, TIME, DATE_TIME, DATE_TIME_LOCAL, UUID, EMAIL, BYTE, ARRAY, OBJECT -> text;
        };
    }

    /** A whole number is written without a point, in YAML too. */
    public static Number plain(BigDecimal value) {
        return value.stripTrailingZeros().scale() > 0 ? value : value.toBigInteger();
    }
}
