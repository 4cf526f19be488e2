package tidybridge.core.answer;

import java.util.ArrayList;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Mask;

/** Puts the fields of an answer into the tree of objects in which they are written. */
final class RowCompiler {

    private final MaskKey key;
    private final Set<String> privileges;

    /**
     * Prepares for callers.
     *
     * @param privileges what they hold, which lifts masks
     */
    RowCompiler(MaskKey key, Set<String> privileges) {
        this.key = key;
        this.privileges = privileges;
    }

    RowWriter compile(List<ShapedField> fields) {
        return new RowWriter(level(fields, 0));
    }

    /** The fields whose first names are the same, as far as they are written already. */
    private CompiledField[] level(List<ShapedField> fields, int depth) {
        Map<String, List<ShapedField>> byName = new LinkedHashMap<>();
        for (ShapedField field : fields) {
            byName.computeIfAbsent(field.path().get(depth), name -> new ArrayList<>())
                    .add(field);
        }
        return byName.entrySet().stream()
                .map(entry -> compiled(new FieldName(entry.getKey()), entry.getValue(), depth))
                .toArray(CompiledField[]::new);
    }

    private CompiledField compiled(FieldName name, List<ShapedField> fields, int depth) {
        ShapedField first = fields.getFirst();
        if (first.path().size() == depth + 1) {
            return leaf(name, first);
        }
        int[] nullTogether = fields.stream().allMatch(ShapedField::nullable)
                ? fields.stream().mapToInt(ShapedField::column).toArray()
                : new int[0];
        return new CompiledField.Nested(name, level(fields, depth + 1), nullTogether);
    }

    private CompiledField leaf(FieldName name, ShapedField field) {
        Mask mask = lifted(field.unless()) ? null : field.mask();
        if (mask != null) {
            return new CompiledField.Masked(name, field.column(), field.type() == FieldType.STRING, mask, key);
        }
        return field.asText()
                ? new CompiledField.AsText(name, field.column())
                : new CompiledField.Plain(name, field.column(), field.type());
    }

    private boolean lifted(@Nullable String unless) {
        return unless != null && privileges.contains(unless);
    }
}
