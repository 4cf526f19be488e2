package tidybridge.core.directory;

import java.util.List;

/**
 * A module in which all words were found.
 *
 * @param inHead how many of the words its title, name, owner, tags and description have; what has most is shown first
 * @param hits the places with most of the words first, {@link #MOST} at most; none when it has all of them in its head alone
 * @param more how many places there are besides
 */
public record Found(int inHead, List<Hit> hits, int more) {

    /** How many places are shown. */
    public static final int MOST = 5;

    public Found {
        hits = List.copyOf(hits);
    }
}
