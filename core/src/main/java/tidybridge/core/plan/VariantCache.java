package tidybridge.core.plan;

import java.util.Arrays;
import java.util.Map;
import java.util.concurrent.ConcurrentHashMap;
import java.util.concurrent.atomic.AtomicLong;
import java.util.function.Function;
import org.jspecify.annotations.Nullable;

/**
 * The forms of a statement that were written lately. Bounded whatever callers ask for: there are two generations of at most
 * {@link #MOST} forms and about {@link #MOST_CHARS}; when the young one is full it becomes the old one, and what is used of the old one is
 * young again. Thread-safe.
 */
final class VariantCache {

    /** The most forms of one generation. */
    static final int MOST = 2_048;

    /** How many chars the forms of one generation may have together. */
    static final long MOST_CHARS = 1_000_000;

    private volatile Generations generations = new Generations(new ConcurrentHashMap<>(), Map.of(), new AtomicLong());

    /** @param chars of the young ones */
    private record Generations(Map<Form, Variant> young, Map<Form, Variant> old, AtomicLong chars) {

        boolean isFull() {
            return young.size() >= MOST || chars.get() >= MOST_CHARS;
        }

        /** Keeps a form; the one that was first when two meet. */
        Variant keep(Form form, Variant variant) {
            Variant first = young.putIfAbsent(form, variant);
            if (first != null) {
                return first;
            }
            chars.addAndGet(variant.sql().length());
            return variant;
        }
    }

    /** Which switches' values are there: a bit for each, the first 64 of them and those behind. */
    record Given(long low, long high) {
        static final Given NOTHING = new Given(0, 0);

        /** The first so many. */
        static Given first(int count) {
            long low = count >= Long.SIZE ? -1L : (1L << count) - 1;
            int more = Math.max(0, count - Long.SIZE);
            return new Given(low, more >= Long.SIZE ? -1L : (1L << more) - 1);
        }

        static Given only(int index) {
            return index < Long.SIZE ? new Given(1L << index, 0) : new Given(0, 1L << index - Long.SIZE);
        }

        boolean has(int index) {
            return index < Long.SIZE ? (low & 1L << index) != 0 : (high & 1L << index - Long.SIZE) != 0;
        }
    }

    /**
     * Which form is meant.
     *
     * @param given the switches whose values are there
     * @param page null for what is no collection
     * @param sizes the size classes of the lists
     */
    record Form(Given given, @Nullable PageRequest page, int[] sizes) {
        private static final int[] NO_LISTS = {};

        static Form withoutLists(Given given, @Nullable PageRequest page) {
            return new Form(given, page, NO_LISTS);
        }

        @Override
        public boolean equals(@Nullable Object other) {
            return other instanceof Form form
                    && given.equals(form.given)
                    && (page == form.page || page != null && page.equals(form.page))
                    && Arrays.equals(sizes, form.sizes);
        }

        @Override
        public int hashCode() {
            int hash = given.hashCode() * 31 + (page == null ? 0 : page.hashCode());
            return sizes.length == 0 ? hash : hash * 31 + Arrays.hashCode(sizes);
        }
    }

    /** The kept form, or what is written now; two requests that meet at a new form get the same one. */
    Variant get(Form form, Function<Form, Variant> writing) {
        Generations now = generations;
        Variant known = now.young.get(form);
        if (known != null) {
            return known;
        }
        known = now.old.get(form);
        return keep(now, form, known == null ? writing.apply(form) : known);
    }

    private Variant keep(Generations now, Form form, Variant variant) {
        if (now.isFull()) {
            generations = new Generations(new ConcurrentHashMap<>(), now.young, new AtomicLong());
        }
        return generations.keep(form, variant);
    }
}
