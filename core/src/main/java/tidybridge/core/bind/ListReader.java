package tidybridge.core.bind;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.ParameterType;
import tools.jackson.core.JsonToken;

/** Reads lists: each item by its own type, then their number. Immutable and thread-safe. */
final class ListReader {

    private final ListRule rule;
    private final ValueReader items;

    ListReader(ListRule rule) {
        this.rule = rule;
        this.items = new ValueReader(rule.type(), rule.constraints());
    }

    /** Reads one item; the clause of a failure speaks of the item. */
    Object item(String text, Effort effort) throws ValueReader.Unfit {
        try {
            return items.read(text, effort);
        } catch (ValueReader.Unfit e) {
            throw new ValueReader.Unfit("has an item that " + e.clause());
        }
    }

    /** Reads {@code a,b,c}, as paths, header fields and cookies write lists; an empty text is an empty list. */
    List<Object> separated(String text, Effort effort) throws ValueReader.Unfit {
        List<Object> list = new ArrayList<>();
        if (!text.isEmpty()) {
            for (String part : text.split(",", -1)) {
                if (list.size() > rule.maxItems()) {
                    break;
                }
                list.add(item(part.strip(), effort));
            }
        }
        return checked(list);
    }

    /** Reads the items of one value of a query into a list, as far as it can take them. */
    void items(String text, List<Object> list, Effort effort) throws ValueReader.Unfit {
        if (!rule.commas()) {
            list.add(item(text, effort));
            return;
        }
        for (String item : CommaText.split(text, rule.maxItems() + 1 - list.size())) {
            list.add(item(item, effort));
        }
    }

    /** Reads the JSON array that begins at the current token, as far as it can be one. */
    List<Object> json(BodyTokens tokens, Effort effort) throws ValueReader.Unfit, BodyTokens.Broken {
        if (tokens.token() != JsonToken.START_ARRAY) {
            throw new ValueReader.Unfit("must be a list");
        }
        List<Object> list = new ArrayList<>();
        while (tokens.next() != JsonToken.END_ARRAY && list.size() <= rule.maxItems()) {
            int index = list.size();
            if (tokens.token() == JsonToken.VALUE_NULL) {
                throw new ValueReader.Unfit("has an item that is null, at " + index);
            }
            int outside = tokens.outside();
            try {
                Object value = items.read(tokens, effort);
                list.add(
                        value instanceof String text && rule.type() == ParameterType.OBJECT
                                ? new Bound.Json(text)
                                : value);
            } catch (ValueReader.Unfit e) {
                throw new ValueReader.Unfit("has an item that " + e.clause() + ", at " + index);
            }
            tokens.leave(outside);
        }
        return checked(list);
    }

    /** Checks how many there are, and whether they may be equal. */
    List<Object> checked(List<Object> list) throws ValueReader.Unfit {
        if (list.size() < rule.minItems()) {
            throw new ValueReader.Unfit("must have at least " + rule.minItems() + " items");
        }
        if (list.size() > rule.maxItems()) {
            throw new ValueReader.Unfit("must have at most " + rule.maxItems() + " items");
        }
        if (rule.unique()) {
            Set<Object> seen = new HashSet<>();
            for (Object item : list) {
                if (!seen.add(item)) {
                    throw new ValueReader.Unfit("must not have an item twice");
                }
            }
        }
        return list;
    }

    int most() {
        return rule.maxItems();
    }
}
