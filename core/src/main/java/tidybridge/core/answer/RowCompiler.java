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

    private final List<ShapedField> all;
    private final MaskKey key;
    private final Set<String> privileges;

    /**
     * Prepares for callers.
     *
     * @param all fields that rows can have
     * @param privileges what the callers hold, which lifts masks
     */
    RowCompiler(List<ShapedField> all, MaskKey key, Set<String> privileges) {
        this.all = all;
        this.key = key;
        this.privileges = privileges;
    }

    RowWriter compile(RowShape shape) {
        List<ShapedField> fields = shape == RowShape.WHOLE ? all : shape.fields();
        return new RowWriter(
                shape.isFlat()
                        ? fields.stream()
                                .map(field -> leaf(new FieldName(field.name()), field))
                                .toArray(CompiledField[]::new)
                        : level(fields, 0));
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
        return new CompiledField.Nested(
                name, level(fields, depth + 1), nullTogether(all, first.path().subList(0, depth + 1)));
    }

    /**
     * The columns that make an object null when all of them are; none when one of them never is.
     *
     * @param path of the object
     */
    static int[] nullTogether(List<ShapedField> all, List<String> path) {
        List<ShapedField> below = all.stream()
                .filter(field -> field.path().size() > path.size()
                        && field.path().subList(0, path.size()).equals(path))
                .toList();
        return below.stream().allMatch(ShapedField::nullable)
                ? below.stream().mapToInt(ShapedField::column).toArray()
                : new int[0];
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
