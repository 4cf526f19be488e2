package tidybridge.core.plan;

/** A query of which one row is the answer, or is needed for it. */
public sealed interface OneRowPlan extends ReadPlan permits RowPlan, ValuePlan, NothingPlan, FilePlan {

    /** What the row says beside the body. */
    RowReply reply();
}
