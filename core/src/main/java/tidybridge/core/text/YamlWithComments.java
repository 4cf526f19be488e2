package tidybridge.core.text;

import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import org.jspecify.annotations.Nullable;
import org.snakeyaml.engine.v2.api.LoadSettings;
import org.snakeyaml.engine.v2.api.lowlevel.Compose;
import org.snakeyaml.engine.v2.comments.CommentLine;
import org.snakeyaml.engine.v2.comments.CommentType;
import org.snakeyaml.engine.v2.common.ScalarStyle;
import org.snakeyaml.engine.v2.nodes.MappingNode;
import org.snakeyaml.engine.v2.nodes.Node;
import org.snakeyaml.engine.v2.nodes.NodeTuple;
import org.snakeyaml.engine.v2.nodes.ScalarNode;
import org.snakeyaml.engine.v2.nodes.SequenceNode;

/** Reads YAML that {@link YamlText} has read, with its comments, as what is to be written again. */
final class YamlWithComments {

    private YamlWithComments() {}

    /**
     * A whole text.
     *
     * @param below comments that stand below everything
     */
    record Whole(Written.Keys keys, List<String> below) {}

    /** Empty for a text that is no mapping. */
    static Optional<Whole> read(SourceText source) {
        LoadSettings settings = LoadSettings.builder()
                .setLabel(source.file())
                .setParseComments(true)
                .setCodePointLimit(4 * 1024 * 1024)
                .build();
        return new Compose(settings)
                .composeString(source.text())
                .filter(MappingNode.class::isInstance)
                .map(root -> {
                    List<String> below = new ArrayList<>(lines(root.getEndComments()));
                    Written.Keys keys = keys((MappingNode) root, below);
                    List<String> above = lines(root.getBlockComments());
                    return new Whole(above.isEmpty() ? keys : withAbove(keys, above), below);
                });
    }

    private static Written.Keys withAbove(Written.Keys keys, List<String> above) {
        if (keys.entries().isEmpty()) {
            return keys;
        }
        List<Written.Entry> entries = new ArrayList<>(keys.entries());
        entries.set(0, above(entries.getFirst(), above));
        return new Written.Keys(entries);
    }

    private static Written.Entry above(Written.Entry entry, List<String> lines) {
        List<String> above = new ArrayList<>(lines);
        above.addAll(entry.above());
        return new Written.Entry(entry.key(), entry.value(), above, entry.beside());
    }

    /**
     * The entries of a mapping.
     *
     * @param below takes what stands below the last of them
     */
    private static Written.Keys keys(MappingNode mapping, List<String> below) {
        List<Written.Entry> entries = new ArrayList<>();
        List<String> carried = new ArrayList<>();
        for (NodeTuple tuple : mapping.getValue()) {
            List<String> after = new ArrayList<>();
            Written.Entry entry = entry(tuple, after);
            entries.add(above(entry, carried));
            carried = after;
        }
        below.addAll(0, carried);
        return new Written.Keys(entries);
    }

    private static Written.Entry entry(NodeTuple tuple, List<String> after) {
        ScalarNode key = (ScalarNode) tuple.getKeyNode();
        Node node = tuple.getValueNode();
        List<String> above = new ArrayList<>(lines(key.getBlockComments()));
        List<String> beside = new ArrayList<>(besides(key));
        beside.addAll(besides(node));
        Written value = value(node, above, after);
        after.addAll(lines(node.getEndComments()));
        after.addAll(lines(key.getEndComments()));
        return new Written.Entry(key.getValue(), value, above, beside.isEmpty() ? null : String.join(" ", beside));
    }

    /**
     * A value.
     *
     * @param above takes comments that stand within what is written on one line
     */
    private static Written value(Node node, List<String> above, List<String> after) {
        return switch (node) {
            case ScalarNode scalar -> {
                above.addAll(lines(scalar.getBlockComments()));
                yield scalar.getScalarStyle() == ScalarStyle.PLAIN
                        ? Written.typed(scalar.getValue())
                        : new Written.Word(scalar.getValue(), false);
            }
            case SequenceNode list -> {
                above.addAll(lines(list.getBlockComments()));
                List<Written> items = new ArrayList<>();
                for (Node item : list.getValue()) {
                    items.add(item(item, above));
                }
                yield new Written.Items(items);
            }
            case MappingNode mapping -> {
                List<String> within = lines(mapping.getBlockComments());
                Written.Keys keys = keys(mapping, after);
                yield within.isEmpty() ? keys : withAbove(keys, within);
            }
            default -> throw new IllegalStateException("aliases were refused before");
        };
    }

    private static Written item(Node node, List<String> above) {
        above.addAll(besides(node));
        List<String> after = new ArrayList<>();
        Written value = value(node, above, after);
        above.addAll(lines(node.getEndComments()));
        above.addAll(after);
        return value instanceof Written.Keys keys ? bare(keys, above) : value;
    }

    /** In a list there is no line for a comment of its own; they stand above the key. */
    private static Written.Keys bare(Written.Keys keys, List<String> above) {
        return new Written.Keys(keys.entries().stream()
                .map(entry -> {
                    above.addAll(entry.above());
                    String beside = entry.beside();
                    if (beside != null) {
                        above.add(beside);
                    }
                    return new Written.Entry(
                            entry.key(),
                            entry.value() instanceof Written.Keys below ? bare(below, above) : entry.value());
                })
                .toList());
    }

    private static List<String> besides(Node node) {
        return lines(node.getInLineComments());
    }

    /** Comments as they are written, and an empty line for one or more. */
    private static List<String> lines(@Nullable List<CommentLine> comments) {
        List<String> lines = new ArrayList<>();
        for (CommentLine comment : comments == null ? List.<CommentLine>of() : comments) {
            if (comment.getCommentType() == CommentType.BLANK_LINE) {
                lines.add("");
            } else {
                lines.add("#" + comment.getValue().stripTrailing());
            }
        }
        return lines;
    }
}
