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
import java.util.Base64;
import java.util.Locale;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Constraints;
import tidybridge.core.definition.ParameterType;
import tidybridge.core.pattern.TextPattern;
import tidybridge.core.text.Surrogates;
import tools.jackson.core.JsonToken;

/** Reads a parameter's text as its type and checks its constraints. Immutable and thread-safe. */
public final class ValueReader {

    private static final Pattern DECIMAL = Pattern.compile("-?(0|[1-9]\\d{0,64})(\\.\\d{1,38})?([eE][+-]?\\d{1,3})?");
    private static final Pattern UUID = Pattern.compile("[0-9a-fA-F]{8}(-[0-9a-fA-F]{4}){3}-[0-9a-fA-F]{12}");
    private static final DateTimeFormatter DATE =
            DateTimeFormatter.ofPattern("uuuu-MM-dd", Locale.ROOT).withResolverStyle(ResolverStyle.STRICT);
    /** A mailbox as HTML forms accept it; longer than RFC 5321 allows none is. */
    private static final Pattern EMAIL = Pattern.compile(
            "(?=.{3,254}$)[A-Za-z0-9.!#$%&'*+/=?^_`{|}~-]{1,64}@[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?"
                    + "(?:\\.[A-Za-z0-9](?:[A-Za-z0-9-]{0,61}[A-Za-z0-9])?)*");

    private static final int LONGEST_TEXT = 65_536;

    /** Longer than any number, date or address that is one; measured before it is looked at. */
    private static final int LONGEST_OF_FORM = 400;

    private static final int LONGEST_EXPONENT = 3;
    private static final int MOST_DIGITS = 100;

    /** How far before a moment's end the sign of its offset stands. */
    private static final int PLUS_AT = 6;

    /** What an unsigned column of 64 bits holds; above a signed one's most, numbers are kept as decimals. */
    private static final BigDecimal MOST_UNSIGNED = new BigDecimal("18446744073709551615");

    private static final BigDecimal MOST_SIGNED = BigDecimal.valueOf(Long.MAX_VALUE);
    private static final BigDecimal LEAST_SIGNED = BigDecimal.valueOf(Long.MIN_VALUE);
    private static final int LONGEST_LONG = 19;

    private final ParameterType type;
    private final Constraints constraints;
    private final @Nullable TextPattern pattern;

    public ValueReader(ParameterType type, Constraints constraints) {
        this.type = type;
        this.constraints = constraints;
        this.pattern = constraints.pattern();
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
     * @return a String, Long, BigDecimal, Boolean, LocalDate, LocalTime, LocalDateTime or byte[], by type
     */
    public Object read(String text) throws Unfit {
        return read(text, new Effort());
    }

    /** The same as one of several values of a request, which share what comparing them may cost. */
    Object read(String text, Effort effort) throws Unfit {
        Object value = parse(text);
        if (!constraints.allowed().isEmpty() && !constraints.allowed().contains(text)) {
            throw new Unfit("must be one of: " + String.join(", ", constraints.allowed()));
        }
        switch (value) {
            case Long number -> checkRange(BigDecimal.valueOf(number));
            case BigDecimal number -> checkRange(number);
            case String string -> checkText(string, effort);
            case byte[] bytes -> checkLength(bytes.length, "bytes");
            default -> {}
        }
        return value;
    }

    /**
     * Reads a part of a JSON body, which must be of the JSON type that its own type is written in.
     *
     * @param tokens at the first token of a value that is not null; what is refused may not be read to its end
     * @return as {@link #read(String)}; a JSON text for an object
     */
    Object read(BodyTokens tokens, Effort effort) throws Unfit, BodyTokens.Broken {
        JsonToken token = tokens.token();
        return switch (type) {
            case INTEGER, NUMBER -> token.isNumeric() ? read(plain(decimal(tokens.string())), effort) : refuse();
            case BOOLEAN -> token.isBoolean() ? read(tokens.string(), effort) : refuse();
            case OBJECT -> token == JsonToken.START_OBJECT ? tokens.text() : refuse();
            case STRING, DATE, TIME, DATE_TIME, DATE_TIME_LOCAL, UUID, EMAIL, BYTE ->
                token == JsonToken.VALUE_STRING ? read(tokens.string(), effort) : refuse();
            case ARRAY -> refuse();
        };
    }

    private Object refuse() throws Unfit {
        throw unfit();
    }

    /** A JSON number, whose exponent is looked at before anything is computed. */
    private BigDecimal decimal(String text) throws Unfit {
        int exponent = Math.max(text.indexOf('e'), text.indexOf('E')) + 1;
        int digit = exponent;
        while (exponent > 0 && digit < text.length() && "+-0".indexOf(text.charAt(digit)) >= 0) {
            digit++;
        }
        if (exponent > 0 && text.length() - digit > LONGEST_EXPONENT) {
            throw unfit();
        }
        return new BigDecimal(text);
    }

    /** A number as JSON writes it, perhaps with an exponent; {@code 12.0} and {@code 1.2e1} are whole numbers too, as in JSON Schema. */
    private String number(String text) throws Unfit {
        return plain(new BigDecimal(matching(DECIMAL, text)));
    }

    /** Without an exponent; what would be longer than any column is refused before it is written out. */
    private String plain(BigDecimal number) throws Unfit {
        if (Math.abs((long) number.scale()) > MOST_DIGITS || number.precision() > MOST_DIGITS) {
            throw unfit();
        }
        if (type == ParameterType.INTEGER) {
            BigDecimal plain = number.stripTrailingZeros();
            if (plain.scale() > 0) {
                throw unfit();
            }
            return plain.toBigInteger().toString();
        }
        return number.toPlainString();
    }

    private Object parse(String text) throws Unfit {
        if (text.length() > LONGEST_OF_FORM && type != ParameterType.STRING && type != ParameterType.BYTE) {
            throw unfit();
        }
        try {
            return switch (type) {
                case STRING -> text;
                case INTEGER -> whole(text);
                case NUMBER -> new BigDecimal(number(text));
                case BOOLEAN -> bool(text);
                case DATE -> year(LocalDate.parse(text, DATE));
                case TIME -> LocalTime.parse(text);
                case DATE_TIME -> moment(text);
                case DATE_TIME_LOCAL -> local(text);
                case UUID -> matching(UUID, text).toLowerCase(Locale.ROOT);
                case EMAIL -> matching(EMAIL, text);
                case BYTE -> Base64.getDecoder().decode(text);
                case ARRAY, OBJECT -> throw unfit();
            };
        } catch (DateTimeException | IllegalArgumentException e) {
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
                    case DATE_TIME ->
                        "must be a moment with its offset from UTC, such as 2031-05-01T12:30:00Z or 2031-05-01T14:30:00+02:00";
                    case DATE_TIME_LOCAL ->
                        "must be a local date and time without an offset, such as 2031-05-01T12:30:00";
                    case UUID -> "must be a UUID such as 1b4e28ba-2fa1-4d2e-883f-0016d3cca427";
                    case EMAIL -> "must be an e-mail address such as quay@marrowby.example";
                    case BYTE -> "must be bytes in base64, such as TWFycm93Ynk=";
                    case ARRAY -> "must be a list";
                    case OBJECT -> "must be a JSON object";
                });
    }

    /** {@link Long#parseLong} alone takes a plus and leading zeros. */
    private Object whole(String text) throws Unfit {
        int first = text.startsWith("-") ? 1 : 0;
        boolean leadingZero = text.length() > first + 1 && text.charAt(first) == '0';
        if (text.length() - first < LONGEST_LONG && !leadingZero && isDigits(text, first)) {
            return Long.valueOf(text);
        }
        BigDecimal number = new BigDecimal(number(text));
        if (number.compareTo(MOST_UNSIGNED) > 0 || number.compareTo(LEAST_SIGNED) < 0) {
            throw unfit();
        }
        return number.compareTo(MOST_SIGNED) > 0 ? (Object) number : number.longValueExact();
    }

    private static boolean isDigits(String text, int from) {
        for (int i = from; i < text.length(); i++) {
            if (text.charAt(i) < '0' || text.charAt(i) > '9') {
                return false;
            }
        }
        return text.length() > from;
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

    /** Bound in UTC, as the session's zone is. */
    private LocalDateTime moment(String text) throws Unfit {
        if (text.length() > PLUS_AT && text.charAt(text.length() - PLUS_AT) == ' ') {
            throw new Unfit("has a space where its offset needs a plus; in an address a plus is written as %2B");
        }
        LocalDateTime moment =
                OffsetDateTime.parse(text).withOffsetSameInstant(ZoneOffset.UTC).toLocalDateTime();
        year(moment.toLocalDate());
        return moment;
    }

    private LocalDateTime local(String text) throws Unfit {
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
        if (!constraints.limitsNumbers()) {
            return;
        }
        BigDecimal limit = constraints.minimum();
        if (limit != null && number.compareTo(limit) < 0) {
            throw new Unfit("must be at least " + limit.toPlainString());
        }
        limit = constraints.maximum();
        if (limit != null && number.compareTo(limit) > 0) {
            throw new Unfit("must be at most " + limit.toPlainString());
        }
        limit = constraints.exclusiveMinimum();
        if (limit != null && number.compareTo(limit) <= 0) {
            throw new Unfit("must be above " + limit.toPlainString());
        }
        limit = constraints.exclusiveMaximum();
        if (limit != null && number.compareTo(limit) >= 0) {
            throw new Unfit("must be below " + limit.toPlainString());
        }
        limit = constraints.multipleOf();
        if (limit != null && number.remainder(limit).signum() != 0) {
            throw new Unfit("must be a multiple of " + limit.toPlainString());
        }
    }

    private void checkLength(int length, String unit) throws Unfit {
        Integer least = constraints.minLength();
        int most = longest(constraints.maxLength());
        if (least != null && length < least) {
            throw new Unfit("must have at least " + least + " " + unit);
        }
        if (length > most) {
            throw new Unfit("must have at most " + most + " " + unit);
        }
    }

    private void checkText(String text, Effort effort) throws Unfit {
        checkLength(text.codePointCount(0, text.length()), "characters");
        if (text.indexOf('\0') >= 0) {
            throw new Unfit("must not hold the character NUL");
        }
        if (Surrogates.isLoneIn(text)) {
            throw new Unfit("must not hold half a character (a lone surrogate)");
        }
        if (pattern != null) {
            checkPattern(pattern, text, effort);
        }
    }

    private static void checkPattern(TextPattern pattern, String text, Effort effort) throws Unfit {
        if (text.length() > pattern.longestText()) {
            throw new Unfit("is too long to be compared with its pattern; at most " + pattern.longestText()
                    + " characters can be");
        }
        if (!effort.spend(pattern.effort(text.length()))) {
            throw new Unfit(
                    "comes with more text than can be compared with patterns at once; send less in one request");
        }
        if (!pattern.isFoundIn(text)) {
            throw new Unfit("must match the pattern " + pattern.text());
        }
    }

    /** The longest text that is read, in characters. */
    public static int longest(@Nullable Integer maxLength) {
        return maxLength == null ? LONGEST_TEXT : maxLength;
    }
}
