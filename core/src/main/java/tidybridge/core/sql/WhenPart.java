package tidybridge.core.sql;

import java.util.List;
import tidybridge.core.text.Place;

/**
 * A part of a statement that applies only when all the named parameters are given; written as {@code -- when :name} at the end
 * of a line, or {@code -- when :one and :other}.
 *
 * @param names the parameters, without colon, at least one
 * @param place where the marking comment stands
 */
public record WhenPart(List<String> names, Place place) {
    public WhenPart {
        names = List.copyOf(names);
    }
}
