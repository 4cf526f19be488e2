package tidybridge.core.drafting;

import java.math.BigDecimal;
import java.math.BigInteger;
import java.util.List;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Relation;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.infer.TypeFit;
import tidybridge.core.text.Written;

/** What a parameter must be to fit a column: its type, what the type allows, and what plain checks of the table allow. */
final class ColumnLimits {

    private static final long LONGEST = 1_000_000;
    private static final Pattern BETWEEN = Pattern.compile("(?i)`([^`]+)` between (-?[\\d.]+) and (-?[\\d.]+)");
    private static final Pattern CHOICE = Pattern.compile("(?i) x?or ");
    private static final Pattern AT_LEAST = Pattern.compile("`([^`]+)` (>=|>|<=|<) (-?\\d+(?:\\.\\d+)?)");

    private final ColumnType type;
    private final ParameterType parameter;
    private @Nullable BigDecimal least;
    private @Nullable BigDecimal most;
    private @Nullable BigDecimal above;
    private @Nullable BigDecimal below;

    private ColumnLimits(Column column, List<Relation.Check> checks) {
        this.type = column.type();
        this.parameter = TypeFit.of(type.fieldType(), type.base());
        if (parameter.isNumber()) {
            ofType();
            checks.forEach(check -> ofCheck(column, check.condition()));
        }
    }

    /** As keys of a definition, {@code type} first. */
    static Written.Keys of(Column column, List<Relation.Check> checks) {
        return new ColumnLimits(column, checks).keys();
    }

    private void ofType() {
        Integer precision = type.precision();
        Integer scale = type.scale();
        if (type.base().equals("decimal") && precision != null && scale != null) {
            // what has more digits would be rounded by the database, and nobody told
            most = new BigDecimal(BigInteger.TEN.pow(precision).subtract(BigInteger.ONE), scale);
            least = type.unsigned() ? BigDecimal.ZERO : most.negate();
        } else if (type.base().equals("bit") && precision != null && precision < 64) {
            least = BigDecimal.ZERO;
            most = new BigDecimal(BigInteger.TWO.pow(precision).subtract(BigInteger.ONE));
        } else if (type.unsigned()) {
            least = BigDecimal.ZERO;
            most = type.base().equals("bigint") ? new BigDecimal("18446744073709551615") : null;
        }
    }

    private void ofCheck(Column column, String condition) {
        Matcher between = BETWEEN.matcher(condition);
        if (between.matches() && between.group(1).equalsIgnoreCase(column.name())) {
            atLeast(new BigDecimal(between.group(2)));
            atMost(new BigDecimal(between.group(3)));
        }
        // of conditions that must all hold each counts by itself
        for (String part : CHOICE.matcher(condition).find() ? new String[0] : condition.split("(?i) and ")) {
            Matcher one = AT_LEAST.matcher(part.strip());
            if (one.matches() && one.group(1).equalsIgnoreCase(column.name())) {
                BigDecimal bound = new BigDecimal(one.group(3));
                switch (one.group(2)) {
                    case ">=" -> atLeast(bound);
                    case "<=" -> atMost(bound);
                    case ">" -> above = above == null ? bound : above.max(bound);
                    default -> below = below == null ? bound : below.min(bound);
                }
            }
        }
    }

    private void atLeast(BigDecimal bound) {
        least = least == null ? bound : least.max(bound);
    }

    private void atMost(BigDecimal bound) {
        most = most == null ? bound : most.min(bound);
    }

    private Written.Keys keys() {
        Written.Collector keys = new Written.Collector().put("type", parameter.label());
        put(keys, "minimum", least);
        put(keys, "maximum", most);
        put(keys, "exclusiveMinimum", above);
        put(keys, "exclusiveMaximum", below);
        Integer scale = type.scale();
        if (type.base().equals("decimal") && scale != null) {
            put(keys, "multipleOf", BigDecimal.ONE.movePointLeft(scale));
        }
        Long length = type.length();
        boolean isText = parameter == ParameterType.STRING && type.members().isEmpty();
        if ((isText || parameter == ParameterType.BYTE) && length != null && length <= LONGEST) {
            keys.put("maxLength", Written.typed(length));
        }
        if (parameter == ParameterType.STRING && type.base().equals("enum")) {
            keys.put("enum", Written.texts(type.members()));
        }
        return keys.keys();
    }

    private static void put(Written.Collector keys, String key, @Nullable BigDecimal bound) {
        if (bound != null) {
            keys.put(key, Written.typed(plain(bound)));
        }
    }

    private static String plain(BigDecimal bound) {
        return bound.signum() == 0 ? "0" : bound.stripTrailingZeros().toPlainString();
    }

    /** A value that a column takes, made up; null where none can be told. */
    static @Nullable Written example(Column column, List<Relation.Check> checks) {
        ColumnLimits limits = new ColumnLimits(column, checks);
        return switch (limits.parameter) {
            case INTEGER, NUMBER -> limits.number();
            case BOOLEAN -> Written.typed(true);
            case DATE -> Written.typed("2031-05-01");
            case TIME -> Written.text("09:30:00");
            case DATE_TIME -> Written.text("2031-05-01T09:30:00Z");
            case DATE_TIME_LOCAL -> Written.text("2031-05-01T09:30:00");
            case UUID -> Written.text("0b8e4a52-6f0d-4c1e-9d57-3a2f1c7e9b10");
            case STRING -> limits.text(column.name());
            case EMAIL, BYTE, OBJECT, ARRAY -> null;
        };
    }

    private @Nullable Written number() {
        if (type.base().equals("year")) {
            return Written.typed(2031);
        }
        BigDecimal value = BigDecimal.ONE;
        if (least != null && value.compareTo(least) < 0) {
            value = least;
        }
        if (above != null && value.compareTo(above) <= 0) {
            value = above.add(BigDecimal.ONE);
        }
        boolean fits = (most == null || value.compareTo(most) <= 0) && (below == null || value.compareTo(below) < 0);
        return fits ? Written.typed(plain(value)) : most == null ? null : Written.typed(plain(most));
    }

    private @Nullable Written text(String name) {
        if (type.base().equals("enum")) {
            return Written.text(type.members().getFirst());
        }
        if (type.base().equals("set")) {
            return Written.text(type.members().getFirst());
        }
        Long length = type.length();
        String words = name.isEmpty()
                ? "Text"
                : Character.toUpperCase(name.charAt(0)) + name.substring(1).replace('_', ' ');
        int most = (int) Math.min(length == null ? words.length() : length, words.length());
        return most == 0 || !words.chars().allMatch(c -> c >= 32 && c < 127)
                ? null
                : Written.text(words.substring(0, most).strip());
    }
}
