package tidybridge.core.bind;

import java.time.LocalDateTime;
import java.time.ZoneOffset;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.ParameterDefinition;

/** Turns the raw inputs of a request into checked values; compiled for one operation. Immutable and thread-safe. */
public final class Binder {

    /** The query parameter for the size of a page. */
    public static final String LIMIT = "limit";

    /** The query parameter that continues a collection. */
    public static final String AFTER = "after";

    /** The query parameter that goes back in a collection. */
    public static final String BEFORE = "before";

    /** The query parameter that begins a page at a row. */
    public static final String FROM = "from";

    /** The query parameter that asks for the last page. */
    public static final String LAST = "last";

    /** The query parameter that sorts a collection. */
    public static final String SORT = "sort";

    /** The query parameter that searches a collection for words. */
    public static final String SEARCH = "search";

    /** The query parameter that chooses fields. */
    public static final String FIELDS = "fields";

    /** The query parameter that has a collection's rows counted. */
    public static final String TOTAL = "total";

    /** The query parameter that names the notation of rows. */
    public static final String FORMAT = "format";

    /** The query parameter, and the parameter of {@code text/csv}, that says whether a table has a header (RFC 4180). */
    public static final String HEADER = "header";

    /** The query parameter that asks what a change would touch. */
    public static final String PREVIEW = "preview";

    /** What {@link #PREVIEW} can ask for. */
    public static final String COUNT = "count";

    private final CompiledInputs compiled;

    /**
     * Compiles a binder.
     *
     * @param placeholders the path's placeholders from left to right
     * @param ask what callers may ask beside the parameters
     * @throws ValueReader.Unfit when a parameter's default does not fit its own type
     */
    public Binder(List<ParameterDefinition> parameters, List<String> placeholders, Askable ask)
            throws ValueReader.Unfit {
        this.compiled = new CompiledInputs(parameters, placeholders, ask);
    }

    /** What kind of body requests carry. */
    public BodyKind bodyKind() {
        return compiled.bodyKind;
    }

    /**
     * Binds a request.
     *
     * @throws BadInput with every mistake of the request
     */
    public Bound bind(Inputs inputs) throws BadInput {
        Mistakes mistakes = new Mistakes();
        OwnInputs own = new OwnInputs(mistakes);
        Reading reading = new Reading(compiled, mistakes);
        PairReader pairs = new PairReader(compiled, reading, own, mistakes);
        address(inputs, reading, pairs);
        byte[] body = compiled.bodyKind == BodyKind.NONE ? null : inputs.body();
        if (body != null) {
            if (compiled.bodyKind == BodyKind.JSON) {
                reading.json(body);
            } else {
                pairs.form(body);
            }
        }
        reading.settle(false);
        reading.settle(true);
        own.settle();
        mistakes.refuse();
        return own.with(reading.values(), compiled.ask.page());
    }

    /**
     * Binds a request whose body is an array of rows: each with values of its own for what its item holds.
     *
     * @param most rows
     * @return the values of each row, in their order
     * @throws BadInput with every mistake of the request; those of a row's own are found below its index
     */
    public List<@Nullable Object[]> bindEach(Inputs inputs, int most) throws BadInput {
        Mistakes mistakes = new Mistakes();
        Reading reading = new Reading(compiled, mistakes);
        address(inputs, reading, new PairReader(compiled, reading, new OwnInputs(mistakes), mistakes));
        List<@Nullable Object[]> rows = reading.rows(inputs.body(), most);
        reading.settle(false);
        mistakes.refuse();
        return rows;
    }

    /** Reads everything but the body. */
    private void address(Inputs inputs, Reading reading, PairReader pairs) throws BadInput {
        List<ParameterDefinition> parameters = compiled.parameters;
        for (int i = 0; i < compiled.placeholder.length; i++) {
            ParameterDefinition parameter = parameters.get(i);
            switch (parameter.in()) {
                case PATH -> reading.path(i, inputs.path(compiled.placeholder[i]));
                case HEADER -> reading.text(i, inputs.header(parameter.wireName()));
                case COOKIE -> reading.text(i, inputs.cookie(parameter.wireName()));
                case CALLER -> reading.known(i, of(inputs.caller(), parameter));
                case REQUEST -> reading.known(i, ofRequest(inputs, parameter.wireName()));
                case QUERY, BODY, FORM -> {}
            }
        }
        String text = inputs.query();
        if (text != null) {
            pairs.query(text);
        }
    }

    private static @Nullable Object of(Caller caller, ParameterDefinition parameter) throws BadInput {
        Object value = of(caller, parameter.wireName());
        if (value == null && parameter.required()) {
            throw BadInput.ofCaller(caller, parameter.wireName());
        }
        return value;
    }

    private static @Nullable Object of(Caller caller, String name) {
        if (name.startsWith(Caller.CLAIM)) {
            return caller.claims().get(name.substring(Caller.CLAIM.length()));
        }
        return switch (name) {
            case "client" -> caller.client();
            case "roles" -> caller.roles();
            case "privileges" -> caller.privileges().written();
            case "address" -> caller.address();
            default -> caller.name();
        };
    }

    /** A moment is bound in UTC, as the session's zone is. */
    private static Object ofRequest(Inputs inputs, String name) {
        return name.equals("time") ? LocalDateTime.ofInstant(inputs.requestTime(), ZoneOffset.UTC) : inputs.requestId();
    }
}
