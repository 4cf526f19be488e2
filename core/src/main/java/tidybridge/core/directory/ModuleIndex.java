package tidybridge.core.directory;

import java.util.ArrayList;
import java.util.Comparator;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Stream;
import org.jspecify.annotations.Nullable;
import tidybridge.core.contract.Contract;
import tidybridge.core.contract.FieldTerms;
import tidybridge.core.contract.InputTerms;
import tidybridge.core.contract.OperationTerms;
import tidybridge.core.definition.Listing;

/** The words of one module: of its title and description, and of its operations, their fields and their parameters. Immutable and thread-safe. */
public final class ModuleIndex {

    private final String head;
    private final List<Entry> entries;

    /** A place with its words in lower case. */
    private record Entry(Hit hit, String words) {}

    /** An entry and which words it has. */
    private record Match(Hit hit, int found) {}

    private ModuleIndex(String head, List<Entry> entries) {
        this.head = head;
        this.entries = List.copyOf(entries);
    }

    /** Of a module of which only the head is known. */
    public static ModuleIndex ofHead(String module, String title, @Nullable String about, Listing listing) {
        return new ModuleIndex(head(module, title, about, listing), List.of());
    }

    /** Of all that a release promises. */
    public static ModuleIndex of(Contract contract) {
        List<Entry> entries = new ArrayList<>();
        for (OperationTerms operation : contract.operations()) {
            entries.add(entry(Hit.Kind.OPERATION, operation, null, operation.about()));
            for (FieldTerms field : operation.answer().fields()) {
                entries.add(entry(Hit.Kind.FIELD, operation, field.name(), field.about()));
            }
            for (InputTerms input : operation.inputs()) {
                entries.add(entry(Hit.Kind.PARAMETER, operation, input.name(), input.about()));
            }
        }
        String head = head(contract.module(), contract.title(), contract.about(), contract.found());
        return new ModuleIndex(head, entries);
    }

    private static String head(String module, String title, @Nullable String about, Listing listing) {
        return words(Stream.concat(Stream.of(module, title, about, listing.owner()), listing.tags().stream()));
    }

    private static Entry entry(Hit.Kind kind, OperationTerms operation, @Nullable String name, @Nullable String about) {
        Stream<@Nullable String> texts =
                name == null ? Stream.of(operation.label(), operation.id(), about) : Stream.of(name, about);
        return new Entry(new Hit(kind, operation.label(), operation.id(), name, about), words(texts));
    }

    private static String words(Stream<@Nullable String> texts) {
        StringBuilder words = new StringBuilder();
        texts.forEach(text -> {
            if (text != null) {
                words.append(text.toLowerCase(Locale.ROOT)).append('\n');
            }
        });
        return words.toString();
    }

    /** Looks for words; empty when one of them is nowhere in the module. */
    public Optional<Found> find(SearchWords words) {
        int inHead = words.in(head);
        List<Match> matches = matches(words);
        int found = matches.stream().mapToInt(Match::found).reduce(inHead, (some, more) -> some | more);
        if (found != words.all()) {
            return Optional.empty();
        }
        int shown = Math.min(matches.size(), Found.MOST);
        return Optional.of(new Found(Integer.bitCount(inHead), hits(matches, shown), matches.size() - shown));
    }

    /**
     * The places that have some of the words, those with most of them first.
     *
     * @param most how many are told
     */
    public List<Hit> places(SearchWords words, int most) {
        return hits(matches(words), most);
    }

    private static List<Hit> hits(List<Match> matches, int most) {
        // places that have more of the words than others tell what was meant
        return matches.stream()
                .sorted(Comparator.comparingInt((Match match) -> -Integer.bitCount(match.found()))
                        .thenComparing(match -> match.hit().kind()))
                .limit(most)
                .map(Match::hit)
                .toList();
    }

    private List<Match> matches(SearchWords words) {
        List<Match> matches = new ArrayList<>();
        for (Entry entry : entries) {
            int here = words.in(entry.words());
            if (here != 0) {
                matches.add(new Match(entry.hit(), here));
            }
        }
        return matches;
    }
}
