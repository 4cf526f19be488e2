package tidybridge.core.compare;

import java.util.Locale;
import java.util.Optional;

/** Every kind of difference between two contracts, with what it means for callers. Its {@link #label()} never changes. */
public enum DifferenceKind {
    OPERATION_REMOVED(Effect.BREAKING),
    OPERATION_ADDED(Effect.SAFE),
    OPERATION_RENAMED(Effect.SAFE),
    PLACEHOLDER_RENAMED(Effect.SAFE),
    CHANGES_DATA(Effect.BREAKING),
    CHANGES_NOTHING(Effect.SAFE),

    PARAMETER_ADDED_REQUIRED(Effect.BREAKING),
    PARAMETER_ADDED(Effect.SAFE),
    PARAMETER_REMOVED(Effect.BREAKING),
    PARAMETER_REQUIRED(Effect.BREAKING),
    PARAMETER_OPTIONAL(Effect.SAFE),
    PARAMETER_RETYPED(Effect.BREAKING),
    PARAMETER_NARROWED(Effect.BREAKING),
    PARAMETER_WIDENED(Effect.SAFE),
    DEFAULT_CHANGED(Effect.BREAKING),
    BODY_CHANGED(Effect.BREAKING),

    FILTER_REMOVED(Effect.BREAKING),
    FILTER_ADDED(Effect.SAFE),
    SORT_REMOVED(Effect.BREAKING),
    SORT_ADDED(Effect.SAFE),
    OFFER_REMOVED(Effect.BREAKING),
    OFFER_ADDED(Effect.SAFE),
    ORDER_CHANGED(Effect.BREAKING),
    PAGE_SIZE_CHANGED(Effect.BREAKING),
    CEILING_LOWERED(Effect.BREAKING),
    CEILING_RAISED(Effect.SAFE),

    ANSWER_CHANGED(Effect.BREAKING),
    STATUS_CHANGED(Effect.BREAKING),
    FIELD_REMOVED(Effect.BREAKING),
    FIELD_RENAMED(Effect.BREAKING),
    FIELD_ADDED(Effect.SAFE),
    FIELD_RETYPED(Effect.BREAKING),
    FIELD_NULLABLE(Effect.BREAKING),
    FIELD_NEVER_NULL(Effect.SAFE),
    FIELD_VALUES_ADDED(Effect.BREAKING),
    FIELD_VALUES_REMOVED(Effect.SAFE),
    FIELD_MASKED(Effect.BREAKING),
    FIELD_UNMASKED(Effect.SAFE),
    COLUMNS_MOVED(Effect.BREAKING),
    FIELDS_MOVED(Effect.INTERNAL),
    MEDIA_TYPE_REMOVED(Effect.BREAKING),
    MEDIA_TYPE_ADDED(Effect.SAFE),
    HEADER_REMOVED(Effect.BREAKING),
    HEADER_ADDED(Effect.SAFE),
    FRESHNESS_CHANGED(Effect.SAFE),

    PROBLEM_REMOVED(Effect.BREAKING),
    PROBLEM_MOVED(Effect.BREAKING),
    PROBLEM_ADDED(Effect.SAFE),

    PRECONDITION_REQUIRED(Effect.BREAKING),
    PRECONDITION_OPTIONAL(Effect.SAFE),
    PRECONDITION_IGNORED(Effect.BREAKING),
    PRECONDITION_OFFERED(Effect.SAFE),

    PRIVILEGE_ADDED(Effect.BREAKING),
    PRIVILEGE_RELAXED(Effect.SAFE),
    ADMISSION_NARROWED(Effect.BREAKING),
    ADMISSION_WIDENED(Effect.SAFE),
    QUOTA_LOWERED(Effect.BREAKING),
    QUOTA_RAISED(Effect.SAFE),

    END_EARLIER(Effect.BREAKING),
    DEPRECATION_CHANGED(Effect.SAFE),

    WORDS_CHANGED(Effect.INTERNAL),
    LISTING_CHANGED(Effect.INTERNAL),
    TEXT_CHANGED(Effect.INTERNAL);

    private final Effect effect;
    private final String label;

    DifferenceKind(Effect effect) {
        this.effect = effect;
        this.label = name().toLowerCase(Locale.ROOT).replace('_', '-');
    }

    /** Finds a kind by its label. */
    public static Optional<DifferenceKind> labelled(String label) {
        for (DifferenceKind kind : values()) {
            if (kind.label.equals(label)) {
                return Optional.of(kind);
            }
        }
        return Optional.empty();
    }

    /** What it means for callers. */
    public Effect effect() {
        return effect;
    }

    /** The kind as people read and search it. */
    public String label() {
        return label;
    }
}
