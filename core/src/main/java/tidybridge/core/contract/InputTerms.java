package tidybridge.core.contract;

import org.jspecify.annotations.Nullable;
import tidybridge.core.definition.Deprecation;
import tidybridge.core.definition.In;
import tidybridge.core.definition.ListRule;
import tidybridge.core.definition.ParameterDefinition;
import tidybridge.core.definition.ParameterType;

/**
 * What is promised of one input.
 *
 * @param name in the request; a JSON Pointer for a part of the body, empty for the whole of it
 * @param nullable true when a JSON body may say {@code null}
 * @param usual what counts when it is absent; null for none
 * @param example null for none; of a list, its items with commas between them
 * @param limits of the value; of a list, none
 * @param list what a list may hold; null for every other type
 * @param deprecated null while callers may begin to use it
 */
public record InputTerms(
        String name,
        In in,
        ParameterType type,
        boolean required,
        boolean nullable,
        @Nullable String about,
        @Nullable String usual,
        @Nullable String example,
        LimitTerms limits,
        @Nullable ListTerms list,
        @Nullable Deprecation deprecated) {

    static InputTerms of(ParameterDefinition parameter) {
        ListRule list = parameter.list();
        return new InputTerms(
                parameter.wireName(),
                parameter.in(),
                parameter.type(),
                parameter.required(),
                parameter.nullable(),
                parameter.about(),
                parameter.defaultText(),
                parameter.example(),
                LimitTerms.of(parameter.constraints()),
                list == null ? null : ListTerms.of(list),
                parameter.deprecated());
    }

    /** A text that the service itself understands. */
    public static InputTerms own(String name, In in, boolean required, String about, LimitTerms limits) {
        return new InputTerms(name, in, ParameterType.STRING, required, false, about, null, null, limits, null, null);
    }

    /** True for a part of a body, or the whole of it. */
    public boolean inBody() {
        return in == In.BODY || in == In.FORM;
    }
}
