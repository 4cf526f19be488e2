package tidybridge.core.sheet;

import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Set;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.bind.ValueReader;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.ParameterType;

/**
 * Learns from every cell of a column what type it has. What could mean two things is a text: days in another order than that of ISO 8601, numbers with a
 * comma, numbers that begin with zeros. Used by one thread.
 */
final class ColumnGuess {

    private static final Pattern WHOLE = Pattern.compile("-?(0|[1-9]\\d*)");
    private static final Pattern EXACT = Pattern.compile("-?(0|[1-9]\\d*)\\.\\d+");
    private static final Pattern BINARY = Pattern.compile("-?(0|[1-9]\\d*)(\\.\\d+)?[eE][+-]?\\d{1,3}");
    private static final Pattern ZEROS = Pattern.compile("-?0\\d+(\\.\\d+)?");
    private static final Pattern COMMA = Pattern.compile("-?\\d{1,3}([. ]\\d{3})*,\\d+|-?\\d{1,3}(,\\d{3})+(\\.\\d+)?");
    private static final Pattern OTHER_DAY = Pattern.compile("\\d{1,2}[./-]\\d{1,2}[./-]\\d{2,4}");
    private static final Pattern LOCAL =
            Pattern.compile("\\d{4}-\\d\\d-\\d\\d[T ]\\d\\d:\\d\\d(:\\d\\d(\\.\\d{1,6})?)?");

    private static final Pattern FRACTION = Pattern.compile(":\\d\\d\\.\\d");

    private static final int MOST_EXAMPLES = 3;
    private static final int MOST_DIGITS = 38;
    private static final int[] LENGTHS = {5, 10, 20, 40, 60, 80, 120, 200, 400, 800};
    private static final int LONGEST_TEXT = 16_000;

    /** What a column can be, the narrower first. */
    private enum Kind {
        FLAG(null) {
            @Override
            boolean fits(String cell) {
                return cell.equalsIgnoreCase("true") || cell.equalsIgnoreCase("false");
            }
        },
        WHOLE_NUMBER(null) {
            @Override
            boolean fits(String cell) {
                return cell.length() <= MOST_DIGITS && WHOLE.matcher(cell).matches();
            }
        },
        EXACT_NUMBER(null) {
            @Override
            boolean fits(String cell) {
                return cell.length() <= MOST_DIGITS
                        && (WHOLE.matcher(cell).matches() || EXACT.matcher(cell).matches());
            }
        },
        BINARY_NUMBER(null) {
            @Override
            boolean fits(String cell) {
                return EXACT_NUMBER.fits(cell) || BINARY.matcher(cell).matches();
            }
        },
        DAY(ParameterType.DATE),
        MOMENT(ParameterType.DATE_TIME),
        LOCAL_TIME(null) {
            @Override
            boolean fits(String cell) {
                return LOCAL.matcher(cell).matches() && isRead(ParameterType.DATE_TIME_LOCAL, RowValues.local(cell));
            }
        },
        TIME(ParameterType.TIME),
        UUID(ParameterType.UUID);

        private final @Nullable ParameterType type;

        Kind(@Nullable ParameterType type) {
            this.type = type;
        }

        boolean fits(String cell) {
            return type != null && isRead(type, cell);
        }

        static boolean isRead(ParameterType type, String cell) {
            try {
                new ValueReader(type, Constraints.NONE).read(cell);
                return true;
            } catch (ValueReader.Unfit e) {
                return false;
            }
        }
    }

    private final Set<Kind> possible = new LinkedHashSet<>(List.of(Kind.values()));
    private final List<String> examples = new ArrayList<>();
    private final @Nullable DistinctCells keys;
    private boolean sawEmpty;
    private boolean sawAny;
    private boolean formulas;
    private boolean fraction;
    private boolean zeros;
    private boolean commas;
    private boolean otherDays;
    private int longest;
    private int mostWhole;
    private int mostScale;

    /** @param keyed whether to find out if all cells differ, which costs memory for each row */
    ColumnGuess(boolean keyed) {
        this.keys = keyed ? new DistinctCells() : null;
    }

    void see(String cell) {
        if (cell.isEmpty()) {
            sawEmpty = true;
            return;
        }
        sawAny = true;
        String bare = cell.strip();
        possible.removeIf(kind -> !kind.fits(bare));
        longest = Math.max(longest, cell.codePointCount(0, cell.length()));
        if (possible.contains(Kind.EXACT_NUMBER)) {
            BigDecimal number = new BigDecimal(bare);
            mostScale = Math.max(mostScale, number.scale());
            mostWhole = Math.max(mostWhole, number.precision() - number.scale());
        }
        formulas |= bare.startsWith("=") || bare.startsWith("'=");
        fraction |= FRACTION.matcher(bare).find();
        zeros |= ZEROS.matcher(bare).matches();
        commas |= bare.length() < MOST_DIGITS && COMMA.matcher(bare).matches();
        otherDays |= bare.length() <= 10 && OTHER_DAY.matcher(bare).matches();
        if (examples.size() < MOST_EXAMPLES && !examples.contains(cell)) {
            examples.add(cell.length() <= 60 ? cell : cell.substring(0, 57) + "...");
        }
        if (keys != null) {
            keys.see(bare);
        }
    }

    boolean isKey() {
        boolean simple = longest <= 60;
        return keys != null && sawAny && !sawEmpty && simple && keys.all();
    }

    boolean isNullable() {
        return sawEmpty || !sawAny;
    }

    List<String> examples() {
        return List.copyOf(examples);
    }

    /** The type of the column, in words of the database. */
    String type() {
        Kind kind = sawAny ? possible.stream().findFirst().orElse(null) : null;
        return switch (kind) {
            case null -> text();
            case FLAG -> "boolean";
            case WHOLE_NUMBER -> mostWhole <= 9 ? "int" : mostWhole <= 18 ? "bigint" : "decimal(" + mostWhole + ",0)";
            case EXACT_NUMBER ->
                mostWhole + mostScale > MOST_DIGITS
                        ? text()
                        : "decimal(" + Math.min(MOST_DIGITS, Math.max(1, mostWhole) + mostScale + 2) + "," + mostScale
                                + ")";
            case BINARY_NUMBER -> "double";
            case DAY -> "date";
            case MOMENT -> "timestamp" + fractions();
            case LOCAL_TIME -> "datetime" + fractions();
            case TIME -> "time" + fractions();
            case UUID -> "uuid";
        };
    }

    private String fractions() {
        return fraction ? "(6)" : "";
    }

    private String text() {
        for (int length : LENGTHS) {
            if (longest <= length) {
                return "varchar(" + length + ")";
            }
        }
        return longest <= LONGEST_TEXT ? "text" : "longtext";
    }

    /** What a person should know of it; empty for nothing. */
    List<String> notes() {
        List<String> notes = new ArrayList<>();
        boolean isText = type().startsWith("varchar") || type().endsWith("text");
        if (!sawAny) {
            notes.add("No row has a value here, so that its type is not known; it is taken as a text.");
        }
        if (formulas) {
            notes.add("Some cells begin like formulas; they are kept as texts, and nothing is computed.");
        }
        if (isText && zeros) {
            notes.add("Some numbers begin with zeros; they are kept as texts, so that the zeros stay.");
        }
        if (isText && commas) {
            notes.add("Some numbers have a comma; they are kept as texts. Write them as 1234.5 to have numbers.");
        }
        if (isText && otherDays) {
            notes.add(
                    "Some days could be read in two ways; they are kept as texts. Write them as 2031-05-01 to have days.");
        }
        return notes;
    }
}
