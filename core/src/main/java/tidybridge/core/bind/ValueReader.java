package tidybridge.core.bind;

import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.time.LocalDateTime;
import java.time.LocalTime;
import java.time.OffsetDateTime;
import java.time.ZoneOffset;
import java.time.format.DateTimeFormatter;
import java.time.format.ResolverStyle;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.ParameterType;

/** Reads a parameter's text as its type and checks its constraints. Immutable and thread-safe. */
public final class ValueReader {

    private static final Pattern DECIMAL = Pattern.compile("-?(0|[1-9]\\d{0,64})(\\.\\d{1,38})?");
    private static final Pattern UUID = Pattern.compile("[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}");
    private static final DateTimeFormatter DATE =
            DateTimeFormatter.ofPattern("uuuu-MM-dd", Locale.ROOT).withResolverStyle(ResolverStyle.STRICT);
    private static final int LONGEST_TEXT = 65_536;

    private final ParameterType type;
    private final Constraints constraints;

    public ValueReader(ParameterType type, Constraints constraints) {
        this.type = type;
        this.constraints = constraints;
    }

    /** A text cannot be read as the type, or breaks a constraint; the message is one clause that never holds the text. */
    public static final class Unfit extends Exception {
        Unfit(String clause) {
            super(clause, null, false, false);
        }

        /** What the value must be, such as {@code must be a date such as 2031-05-01}. */
        public String clause() {
            return String.valueOf(getMessage());
        }
    }

    /**
     * Reads a text.
     *
     * @return a String, Long, BigDecimal, Boolean, LocalDate, LocalTime, LocalDateTime or OffsetDateTime, by type
     */
    public Object read(String text) throws Unfit {
        Object value = parse(text);
        if (!constraints.allowed().isEmpty() && !constraints.allowed().contains(text)) {
            throw new Unfit("must be one of: " + String.join(", ", constraints.allowed()));
        }
        switch (value) {
            case Long number -> checkRange(BigDecimal.valueOf(number));
            case BigDecimal number -> checkRange(number);
            case String string -> checkText(string);
            default -> {}
        }
        return value;
    }

    private Object parse(String text) throws Unfit {
        try {
            return switch (type) {
                case STRING -> text;
                case INTEGER -> whole(text);
                case NUMBER -> new BigDecimal(matching(DECIMAL, text));
                case BOOLEAN -> bool(text);
                case DATE -> year(LocalDate.parse(text, DATE));
                case TIME -> LocalTime.parse(text);
                case DATE_TIME -> dateTime(text);
                case UUID -> matching(UUID, text).toLowerCase(Locale.ROOT);
            };
        } catch (DateTimeException | NumberFormatException e) {
            throw unfit();
        }
    }

    private Unfit unfit() {
        return new Unfit(
                switch (type) {
                    case STRING -> "must be text";
                    case INTEGER -> "must be a whole number of at most 64 bits, such as 12";
                    case NUMBER -> "must be a number such as 12 or 0.5";
                    case BOOLEAN -> "must be true or false";
                    case DATE -> "must be a date such as 2031-05-01";
                    case TIME -> "must be a time such as 12:30:00";
                    case DATE_TIME -> "must be a date and time such as 2031-05-01T12:30:00Z";
                    case UUID -> "must be a UUID such as 1b4e28ba-2fa1-4d2e-883f-0016d3cca427";
                });
    }

    /** Digits without a leading zero, perhaps behind a minus sign; {@link Long#parseLong} alone takes a plus and more. */
    private Long whole(String text) throws Unfit {
        int first = text.startsWith("-") ? 1 : 0;
        boolean leadingZero = text.length() > first + 1 && text.charAt(first) == '0';
        if (text.length() == first || leadingZero) {
            throw unfit();
        }
        for (int i = first; i < text.length(); i++) {
            if (text.charAt(i) < '0' || text.charAt(i) > '9') {
                throw unfit();
            }
        }
        return Long.valueOf(text);
    }

    private String matching(Pattern pattern, String text) throws Unfit {
        if (!pattern.matcher(text).matches()) {
            throw unfit();
        }
        return text;
    }

    private Boolean bool(String text) throws Unfit {
        if (!text.equals("true") && !text.equals("false")) {
            throw unfit();
        }
        return text.equals("true");
    }

    /** With an offset it is a moment, bound in UTC as the session's zone is; without one it is bound as it is. */
    private Object dateTime(String text) throws Unfit {
        if (text.length() > 19 && (text.endsWith("Z") || text.indexOf('+', 19) > 0 || text.indexOf('-', 19) > 0)) {
            LocalDateTime moment = OffsetDateTime.parse(text)
                    .withOffsetSameInstant(ZoneOffset.UTC)
                    .toLocalDateTime();
            year(moment.toLocalDate());
            return moment;
        }
        LocalDateTime local = LocalDateTime.parse(text);
        year(local.toLocalDate());
        return local;
    }

    private LocalDate year(LocalDate date) throws Unfit {
        if (date.getYear() < 1 || date.getYear() > 9999) {
            throw unfit();
        }
        return date;
    }

    private void checkRange(BigDecimal number) throws Unfit {
        BigDecimal minimum = constraints.minimum();
        BigDecimal maximum = constraints.maximum();
        if (minimum != null && number.compareTo(minimum) < 0) {
            throw new Unfit("must be at least " + minimum.toPlainString());
        }
        if (maximum != null && number.compareTo(maximum) > 0) {
            throw new Unfit("must be at most " + maximum.toPlainString());
        }
    }

    private void checkText(String text) throws Unfit {
        int length = text.codePointCount(0, text.length());
        Integer minLength = constraints.minLength();
        int maxLength = longest(constraints.maxLength());
        if (minLength != null && length < minLength) {
            throw new Unfit("must have at least " + minLength + " characters");
        }
        if (length > maxLength) {
            throw new Unfit("must have at most " + maxLength + " characters");
        }
        if (text.indexOf('\0') >= 0) {
            throw new Unfit("must not hold the character NUL");
        }
        Pattern pattern = constraints.pattern();
        if (pattern != null && !pattern.matcher(text).find()) {
            throw new Unfit("must match the pattern " + pattern.pattern());
        }
    }

    private static int longest(@Nullable Integer maxLength) {
        return maxLength == null ? LONGEST_TEXT : maxLength;
    }
}
