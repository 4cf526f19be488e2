package tidybridge.core.text;

import java.util.ArrayList;
import java.util.HashSet;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.api.lowlevel.Parse;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.events.Event;
import org.snakeyaml.engine.v2.exceptions.Mark;
import org.snakeyaml.engine.v2.exceptions.MarkedYamlEngineException;
import org.snakeyaml.engine.v2.exceptions.YamlEngineException;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;

/**
 * Reads YAML 1.2 into {@link Node}s that know their places. Duplicate keys are refused; so are aliases, which make a small text large, unless somebody
 * bounds what they may make of it.
 */
public final class YamlText {

    private static final int MAX_DEPTH = 50;

    /** Each takes some hundred bytes while a text is read; a module of a thousand operations has about a hundred thousand. */
    private static final int MOST_NODES = 250_000;

    private YamlText() {}

    /**
     * Reads one document.
     *
     * @return the root, or empty for a text without content
     * @throws BrokenText when the text is not YAML, nests too deep, repeats a key, has a key that is not a plain word, or an alias
     */
    public static Optional<Node> read(SourceText source) throws BrokenText {
        return read(source, MOST_NODES, false);
    }

    /**
     * Reads one document that others wrote, in which aliases stand for what they name.
     *
     * @param mostNodes how many keys and values there may be when every alias is written out
     * @return the root, or empty for a text without content
     * @throws BrokenText when the text is not YAML, nests too deep, repeats a key, has a key that is not a plain word, or comes to more nodes
     */
    public static Optional<Node> readWithAliases(SourceText source, int mostNodes) throws BrokenText {
        return read(source, mostNodes, true);
    }

    private static Optional<Node> read(SourceText source, int mostNodes, boolean aliased) throws BrokenText {
        LoadSettings settings = LoadSettings.builder()
                .setLabel(source.file())
                .setCodePointLimit(4 * 1024 * 1024)
                .setMaxAliasesForCollections(aliased ? mostNodes : 0)
                .build();
        try {
            refuseDeepAndAliases(source, settings, mostNodes, aliased);
            Conversion conversion = new Conversion(source.file(), mostNodes);
            return new Compose(settings)
                    .composeString(source.text())
                    .map(root -> conversion.convert(root, 0))
                    .filter(root -> !(root instanceof Node.Scalar scalar && isEmpty(scalar)));
        } catch (MarkedYamlEngineException e) {
            Place place = e.getProblemMark()
                    .map(mark -> place(source.file(), Optional.of(mark)))
                    .orElse(Place.of(source.file()));
            throw new BrokenText(place, sentence(e.getProblem()));
        } catch (YamlEngineException e) {
            throw new BrokenText(Place.of(source.file()), sentence(String.valueOf(e.getMessage())));
        } catch (Refused e) {
            throw new BrokenText(e.place, e.reason);
        }
    }

    /** Looked at before anything recurses into the text, or expands it. */
    private static void refuseDeepAndAliases(SourceText source, LoadSettings settings, int mostNodes, boolean aliased) {
        int nodes = 0;
        int depth = 0;
        for (Event event : new Parse(settings).parseString(source.text())) {
            switch (event.getEventId()) {
                case MappingStart, SequenceStart -> depth++;
                case MappingEnd, SequenceEnd -> depth--;
                case Alias -> {
                    if (!aliased) {
                        throw new Refused(
                                place(source.file(), event.getStartMark()),
                                "the text has an alias; write the value out where it is meant, and quote a text that begins with '*'");
                    }
                }
                default -> {}
            }
            if (++nodes > 3L * mostNodes) {
                throw new Refused(
                        place(source.file(), event.getStartMark()),
                        "it holds too much: " + mostNodes + " values are read at most");
            }
            if (depth > MAX_DEPTH) {
                throw new Refused(
                        place(source.file(), event.getStartMark()),
                        "the text nests deeper than " + MAX_DEPTH + " levels");
            }
        }
    }

    private static boolean isEmpty(Node.Scalar scalar) {
        return scalar.plain() && scalar.text().isEmpty();
    }

    /** Makes nodes of what the parser found; an alias is what it names, so that a node may be met again and again. Used once. */
    private static final class Conversion {
        private final String file;
        private final int mostNodes;
        private int left;

        Conversion(String file, int mostNodes) {
            this.file = file;
            this.mostNodes = mostNodes;
            this.left = mostNodes;
        }

        Node convert(org.snakeyaml.engine.v2.nodes.Node node, int depth) {
            Place place = place(file, node.getStartMark());
            if (--left < 0) {
                throw new Refused(place, "it holds too much: " + mostNodes + " values are read at most");
            }
            if (depth > MAX_DEPTH) {
                throw new Refused(place, "the text nests deeper than " + MAX_DEPTH + " levels");
            }
            return switch (node) {
                case ScalarNode scalar ->
                    new Node.Scalar(place, scalar.getValue(), scalar.getScalarStyle() == ScalarStyle.PLAIN);
                case SequenceNode sequence ->
                    new Node.Sequence(
                            place,
                            sequence.getValue().stream()
                                    .map(item -> convert(item, depth + 1))
                                    .toList());
                case MappingNode mapping -> mapping(mapping, place, depth);
                default -> throw new Refused(place, "this kind of YAML node is not used here");
            };
        }

        private Node mapping(MappingNode mapping, Place place, int depth) {
            List<Node.Entry> entries = new ArrayList<>();
            Set<String> seen = new HashSet<>();
            for (NodeTuple tuple : mapping.getValue()) {
                Place keyPlace = place(file, tuple.getKeyNode().getStartMark());
                if (!(tuple.getKeyNode() instanceof ScalarNode key)) {
                    throw new Refused(keyPlace, "a key must be a single word");
                }
                if (!seen.add(key.getValue())) {
                    throw new Refused(keyPlace, "the key '" + key.getValue() + "' stands here twice");
                }
                entries.add(new Node.Entry(key.getValue(), keyPlace, convert(tuple.getValueNode(), depth + 1)));
            }
            return new Node.Mapping(place, entries);
        }
    }

    private static Place place(String file, Optional<Mark> mark) {
        return mark.map(m -> new Place(file, m.getLine() + 1, m.getColumn() + 1))
                .orElse(Place.of(file));
    }

    private static String sentence(String problem) {
        String line = problem.strip();
        int end = line.indexOf('\n');
        return end < 0 ? line : line.substring(0, end);
    }

    /** Carries a refusal out of the recursive conversion. */
    private static final class Refused extends RuntimeException {
        private final Place place;
        private final String reason;

        Refused(Place place, String reason) {
            super(reason, null, false, false);
            this.place = place;
            this.reason = reason;
        }
    }
}
