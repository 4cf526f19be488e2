package tidybridge.core.answer;

import java.math.BigInteger;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Predicate;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.FieldType;
import tidybridge.core.definition.Mask;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.io.SerializedString;

/** Writes the rows of one operation as JSON objects; compiled once, allocates only what values need. Thread-safe. */
public final class RowWriter {

    private final List<ShapedField> fields;
    private final MaskKey key;
    private final Member[] members;
    private final boolean masked;

    /** A field, or an object of fields. */
    private static final class Member {
        private final SerializedString name;
        private final List<Member> inside = new ArrayList<>();
        private Member[] children = {};
        private int column;
        private FieldType type = FieldType.STRING;
        private boolean asText;
        private @Nullable Mask mask;
        /** The columns that make an object null when all of them are; empty when one of them never is. */
        private int[] nullTogether = {};

        Member(String name) {
            this.name = new SerializedString(name);
        }
    }

    public RowWriter(List<ShapedField> fields, MaskKey key) {
        this(fields, key, privilege -> false);
    }

    private RowWriter(List<ShapedField> fields, MaskKey key, Predicate<String> privileges) {
        this.fields = List.copyOf(fields);
        this.key = key;
        Member root = new Member("");
        boolean anyMask = false;
        for (ShapedField field : fields) {
            Member member = place(root, field.path());
            member.column = field.column();
            member.type = field.type();
            member.asText = field.asText();
            String unless = field.unless();
            member.mask = unless != null && privileges.test(unless) ? null : field.mask();
            anyMask |= field.mask() != null;
        }
        settle(root, "");
        this.members = root.children;
        this.masked = anyMask;
    }

    private static Member place(Member root, List<String> path) {
        Member at = root;
        for (String name : path) {
            Member next = at.inside.stream()
                    .filter(known -> known.name.getValue().equals(name))
                    .findFirst()
                    .orElse(null);
            if (next == null) {
                next = new Member(name);
                at.inside.add(next);
            }
            at = next;
        }
        return at;
    }

    private void settle(Member member, String prefix) {
        member.children = member.inside.toArray(Member[]::new);
        for (Member child : member.children) {
            String path = prefix.isEmpty() ? child.name.getValue() : prefix + "." + child.name.getValue();
            if (!child.inside.isEmpty()) {
                List<ShapedField> below = fields.stream()
                        .filter(field -> field.name().startsWith(path + "."))
                        .toList();
                if (below.stream().allMatch(ShapedField::nullable)) {
                    child.nullTogether =
                            below.stream().mapToInt(ShapedField::column).toArray();
                }
                settle(child, path);
            }
        }
    }

    /** True when some field is masked for some callers. */
    public boolean isMasked() {
        return masked;
    }

    /** The writer for somebody who holds some privileges, whose masks are lifted. */
    public RowWriter unmasked(Predicate<String> privileges) {
        return masked ? new RowWriter(fields, key, privileges) : this;
    }

    /** Writes the row as one object. */
    public void write(Row row, JsonGenerator json) {
        object(members, row, json);
    }

    /** Writes the row's members into an object that was begun. */
    public void writeMembers(Row row, JsonGenerator json) {
        members(members, row, json);
    }

    private void object(Member[] members, Row row, JsonGenerator json) {
        json.writeStartObject();
        members(members, row, json);
        json.writeEndObject();
    }

    private void members(Member[] members, Row row, JsonGenerator json) {
        for (Member member : members) {
            json.writeName(member.name);
            if (member.children.length == 0) {
                value(member, row, json);
            } else if (isNull(member, row)) {
                json.writeNull();
            } else {
                object(member.children, row, json);
            }
        }
    }

    /** An outer join that found nothing gives an object of nulls, which is no object. */
    private static boolean isNull(Member member, Row row) {
        for (int column : member.nullTogether) {
            if (row.text(column) != null) {
                return false;
            }
        }
        return member.nullTogether.length > 0;
    }

    /** Writes the first field's value alone, whatever objects its name would nest it in. */
    public void writeValue(Row row, JsonGenerator json) {
        Member member = members[0];
        while (member.children.length > 0) {
            member = member.children[0];
        }
        value(member, row, json);
    }

    private void value(Member member, Row row, JsonGenerator json) {
        if (member.mask != null) {
            masked(member, member.mask, row, json);
        } else if (member.asText) {
            String value = row.text(member.column);
            if (value == null) {
                json.writeNull();
            } else {
                json.writeString(value);
            }
        } else {
            plain(member.type, member.column, row, json);
        }
    }

    private void masked(Member member, Mask mask, Row row, JsonGenerator json) {
        String value = member.type == FieldType.STRING ? row.text(member.column) : null;
        if (value == null) {
            json.writeNull();
        } else {
            json.writeString(key.mask(mask, value));
        }
    }

    private static void plain(FieldType type, int column, Row row, JsonGenerator json) {
        switch (type) {
            case INTEGER -> {
                long value = row.integer(column);
                if (row.wasNull()) {
                    json.writeNull();
                } else {
                    json.writeNumber(value);
                }
            }
            case FLOAT -> {
                double value = row.real(column);
                if (row.wasNull()) {
                    json.writeNull();
                } else {
                    json.writeNumber(value);
                }
            }
            case BOOLEAN -> {
                long value = row.integer(column);
                if (row.wasNull()) {
                    json.writeNull();
                } else {
                    json.writeBoolean(value != 0);
                }
            }
            case BINARY, BITS, GEOMETRY -> bytes(type, row.bytes(column), json);
            case DECIMAL, STRING, DATE, TIME, LOCAL_DATE_TIME, MOMENT, JSON -> text(type, row.text(column), json);
        }
    }

    private static void bytes(FieldType type, byte @Nullable [] value, JsonGenerator json) {
        if (value == null) {
            json.writeNull();
            return;
        }
        switch (type) {
            case BITS -> json.writeNumber(new BigInteger(1, value));
            case GEOMETRY -> GeoJson.write(value, json);
            default -> json.writeBinary(value);
        }
    }

    private static void text(FieldType type, @Nullable String value, JsonGenerator json) {
        if (value == null) {
            json.writeNull();
            return;
        }
        switch (type) {
            case DECIMAL -> json.writeNumber(value);
            case JSON -> json.writeRawValue(value);
            case LOCAL_DATE_TIME -> json.writeString(value.replace(' ', 'T'));
            case MOMENT -> json.writeString(value.replace(' ', 'T').concat("Z"));
            default -> json.writeString(value);
        }
    }
}
