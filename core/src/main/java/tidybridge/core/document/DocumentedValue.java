package tidybridge.core.document;

import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.text.Written;

/**
 * What a document tells of a value.
 *
 * @param limits in the words of a definition, without the type
 * @param nullable true when it may be null
 * @param about one line; empty for none
 * @param example null for none
 * @param items what a list holds; null for what is no list, and for a list of anything
 * @param use whether it is sent, shown, or both
 */
public record DocumentedValue(
        ParameterType type,
        Written.Keys limits,
        boolean nullable,
        String about,
        @Nullable Written example,
        @Nullable DocumentedValue items,
        Use use) {

    /** Who says it. */
    public enum Use {
        BOTH,
        /** Only answers have it. */
        SHOWN,
        /** Only requests have it. */
        SENT
    }

    DocumentedValue withoutNull() {
        return new DocumentedValue(type, limits, false, about, example, items, use);
    }

    DocumentedValue withNull(boolean alsoNull) {
        return new DocumentedValue(type, limits, nullable || alsoNull, about, example, items, use);
    }

    DocumentedValue used(Use by) {
        return new DocumentedValue(type, limits, nullable, about, example, items, by);
    }

    /** As the keys of a parameter: its type and its limits. */
    public Written.Keys keys() {
        Written.Collector keys = new Written.Collector().put("type", type.label());
        if (type == ParameterType.ARRAY) {
            keys.put("items", items == null ? Written.keysOf("{ type: string }") : items.keys());
        }
        return keys.putAll(limits).keys();
    }
}
