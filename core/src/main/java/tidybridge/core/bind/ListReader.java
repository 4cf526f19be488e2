package tidybridge.core.bind;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Set;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.ParameterType;
import tools.jackson.databind.JsonNode;

/** Reads lists: each item by its own type, then their number. Immutable and thread-safe. */
final class ListReader {

    private final ListRule rule;
    private final ValueReader items;

    ListReader(ListRule rule) {
        this.rule = rule;
        this.items = new ValueReader(rule.type(), rule.constraints());
    }

    /** Reads one item; the clause of a failure speaks of the item. */
    Object item(String text) throws ValueReader.Unfit {
        try {
            return items.read(text);
        } catch (ValueReader.Unfit e) {
            throw new ValueReader.Unfit("has an item that " + e.clause());
        }
    }

    /** Reads {@code a,b,c}, as paths, header fields and cookies write lists; an empty text is an empty list. */
    List<Object> separated(String text) throws ValueReader.Unfit {
        List<Object> list = new ArrayList<>();
        if (!text.isEmpty()) {
            for (String part : text.split(",", -1)) {
                if (list.size() > rule.maxItems()) {
                    break;
                }
                list.add(item(part.strip()));
            }
        }
        return checked(list);
    }

    /** Reads a JSON array. */
    List<Object> json(JsonNode node) throws ValueReader.Unfit {
        if (!node.isArray()) {
            throw new ValueReader.Unfit("must be a list");
        }
        List<Object> list = new ArrayList<>(node.size());
        for (int i = 0; i < node.size(); i++) {
            if (node.get(i).isNull()) {
                throw new ValueReader.Unfit("has an item that is null, at " + i);
            }
            try {
                list.add(jsonItem(node.get(i)));
            } catch (ValueReader.Unfit e) {
                throw new ValueReader.Unfit("has an item that " + e.clause() + ", at " + i);
            }
        }
        return checked(list);
    }

    private Object jsonItem(JsonNode node) throws ValueReader.Unfit {
        Object value = items.read(node);
        return rule.type() == ParameterType.OBJECT ? new Bound.Json(value.toString()) : value;
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
