package tidybridge.core.bind;

import java.nio.charset.StandardCharsets;
import java.util.Set;
import tidybridge.core.bind.CompiledInputs.Names;
import tidybridge.core.route.PathText;
import tidybridge.core.text.Nearest;

/** Reads the name and value pairs of one request's query or form. */
final class PairReader {

    /** A form is ASCII; everything else in it is percent-encoded (WHATWG URL, 5.1). */
    private static final int MOST_FORM_CHAR = 0x7f;

    private final CompiledInputs compiled;
    private final Reading reading;
    private final OwnInputs own;
    private final Mistakes mistakes;

    PairReader(CompiledInputs compiled, Reading reading, OwnInputs own, Mistakes mistakes) {
        this.compiled = compiled;
        this.reading = reading;
        this.own = own;
        this.mistakes = mistakes;
    }

    void form(byte[] bytes) {
        String text = new String(bytes, StandardCharsets.UTF_8);
        for (int i = 0; i < text.length(); i++) {
            if (text.charAt(i) > MOST_FORM_CHAR) {
                mistakes.add("form", "form", "must be percent-encoded");
                return;
            }
        }
        pairs(text, compiled.form);
    }

    void query(String text) {
        pairs(text, compiled.query);
    }

    private void pairs(String text, Names names) {
        int start = 0;
        int pairs = 0;
        while (start <= text.length()) {
            int end = text.indexOf('&', start);
            end = end < 0 ? text.length() : end;
            if (end > start) {
                if (++pairs > names.mostPairs()) {
                    // said in place of the mistakes before it, which are as many and say less
                    mistakes.forget();
                    mistakes.add(names.in(), names.in(), "has more than " + names.mostPairs() + " parameters");
                    return;
                }
                pair(text, start, end, names);
            }
            start = end + 1;
        }
    }

    private void pair(String text, int start, int end, Names names) {
        int equals = text.indexOf('=', start, end);
        int nameEnd = equals < 0 ? end : equals;
        String name = PathText.decode(text, start, nameEnd, true);
        String value = nameEnd == end ? "" : PathText.decode(text, nameEnd + 1, end, true);
        if (name == null || value == null) {
            String subject = name == null ? names.in() : Mistakes.shown(name);
            mistakes.add(subject, names.in(), "is not properly percent-encoded UTF-8");
            return;
        }
        Integer index = names.indexes().get(name);
        if (index != null) {
            reading.pair(index, value);
        } else if (names != compiled.query || !own.take(name, value, compiled)) {
            unknown(name, names);
        }
    }

    /** A field that can be filtered by is often meant to be equal to something. */
    private static String hint(String name, Set<String> known) {
        String equal = name + "[eq]";
        return known.contains(equal) ? " Did you mean '" + equal + "'?" : Nearest.hint(name, known);
    }

    private void unknown(String name, Names names) {
        if (mistakes.isFlooded()) {
            return;
        }
        Set<String> known = compiled.known(names);
        String shown = Mistakes.shown(name);
        String list = known.isEmpty()
                ? " This call has no " + names.in() + " parameters."
                : " Known here: " + compiled.listed(names) + ".";
        mistakes.add(shown, names.in(), "is not known here." + hint(shown, known) + list);
    }
}
