package tidybridge.core.plan;

/** An operation that is one query. */
public sealed interface ReadPlan extends OperationPlan permits CollectionPlan, OneRowPlan {

    /** What its answers say beside their bodies. */
    RowReply reply();
}
