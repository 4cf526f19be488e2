package tidybridge.core.text;

/** A text that cannot be read any further, with the place and the reason in one clause. */
public final class BrokenText extends Exception {

    private final Place place;

    public BrokenText(Place place, String reason) {
        super(reason);
        this.place = place;
    }

    public Place place() {
        return place;
    }

    /** The reason, never null. */
    public String reason() {
        return String.valueOf(getMessage());
    }
}
