package tidybridge.service.notice;

/** A notice could not be told. The message says why, in a sentence without a secret. */
final class NotTold extends Exception {

    private final boolean forGood;

    /** @param forGood true when it cannot be told later either */
    NotTold(String why, boolean forGood) {
        super(why);
        this.forGood = forGood;
    }

    boolean isForGood() {
        return forGood;
    }

    /** Why. */
    String why() {
        return String.valueOf(getMessage());
    }
}
