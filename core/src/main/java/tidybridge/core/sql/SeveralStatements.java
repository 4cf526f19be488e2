package tidybridge.core.sql;

import tidybridge.core.text.Place;

/** A text holds a second statement where one is expected. */
public final class SeveralStatements extends Exception {

    private final Place place;

    SeveralStatements(Place place) {
        super("a second statement starts here");
        this.place = place;
    }

    /** Where the second statement starts. */
    public Place place() {
        return place;
    }
}
