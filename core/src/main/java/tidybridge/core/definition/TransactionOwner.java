package tidybridge.core.definition;

/** Who begins and ends the transaction of an operation. */
public enum TransactionOwner {
    /** The service: all steps come true, or none. */
    SERVICE,
    /** The procedure that the operation calls; what it has committed stays, whatever comes later. */
    ROUTINE
}
