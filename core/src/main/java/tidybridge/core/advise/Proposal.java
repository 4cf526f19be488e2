package tidybridge.core.advise;

import tidybridge.core.definition.ParameterType;

/**
 * A parameter that a statement needs and the text lacks, or lacks the type of, as the catalog suggests it.
 *
 * @param operation {@code GET /berths}
 * @param bind the bind parameter
 * @param missing what the text lacks
 * @param where what the bind parameter meets, {@code berth.length_m}
 * @param type its type; of a list, the type of its items
 * @param list true when it stands alone in {@code in (...)}
 * @param definition the YAML of the parameter without its name, {@code { in: query, type: number }}; only the type and its limits,
 *     {@code type: number}, when nothing else is missing
 */
public record Proposal(
        String operation,
        String bind,
        Missing missing,
        String where,
        ParameterType type,
        boolean list,
        String definition) {

    /** What the text lacks. */
    public enum Missing {
        PARAMETER,
        TYPE
    }
}
