package tidybridge.service.release;

import java.util.List;

/** Some modules may not be published as they are; none was. */
public final class Objected extends Exception {

    private final transient List<Objection> objections;

    Objected(List<Objection> objections) {
        super(Objection.words(objections), null, false, false);
        this.objections = List.copyOf(objections);
    }

    public List<Objection> objections() {
        return objections;
    }
}
