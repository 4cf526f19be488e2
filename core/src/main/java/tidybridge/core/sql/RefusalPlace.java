package tidybridge.core.sql;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import tidybridge.core.text.Place;

/**
 * Finds in a statement's text what a server's message speaks of. The server reads the statement in another form, so its own line
 * numbers say nothing; the names it quotes do.
 */
final class RefusalPlace {

    private static final Pattern PIECE = Pattern.compile("[A-Za-z_$0-9]+|[^\\s`]");
    private static final int MOST_PIECES = 6;

    private RefusalPlace() {}

    /**
     * Where the thing stands; empty when the text does not hold it.
     *
     * @param named what the message names
     */
    static Optional<Place> of(Statement statement, String named) {
        List<String> pieces = new ArrayList<>();
        Matcher piece = PIECE.matcher(named);
        while (piece.find() && pieces.size() < MOST_PIECES) {
            pieces.add(piece.group());
        }
        // a name may come with its schema, which the text need not say
        for (int from = 0; from < pieces.size(); from++) {
            Optional<Place> found =
                    statement.find(pieces.subList(from, pieces.size()).toArray(String[]::new));
            if (found.isPresent()) {
                return found;
            }
        }
        return Optional.empty();
    }
}
