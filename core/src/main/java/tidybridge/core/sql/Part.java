package tidybridge.core.sql;

import java.util.Comparator;
import java.util.List;
import java.util.stream.IntStream;

/**
 * The stretch of text a {@link WhenPart} covers. Parts lie beside or inside each other and never overlap by half.
 *
 * @param parent the part around this one as an index, -1 for none
 */
record Part(WhenPart when, int start, int end, int parent) {

    /** For each token the smallest part around it as an index, -1 for none; one walk over both. */
    static int[] innermost(List<Part> parts, List<Token> tokens) {
        int[] order = IntStream.range(0, parts.size())
                .boxed()
                .sorted(Comparator.<Integer>comparingInt(i -> parts.get(i).start)
                        .thenComparingInt(i -> -parts.get(i).end))
                .mapToInt(Integer::intValue)
                .toArray();
        int[] partOf = new int[tokens.size()];
        IntStack around = new IntStack();
        int next = 0;
        for (int i = 0; i < partOf.length; i++) {
            int offset = tokens.get(i).start();
            while (next < order.length && parts.get(order[next]).start <= offset) {
                around.push(order[next++]);
            }
            while (!around.isEmpty() && parts.get(around.peek()).end <= offset) {
                around.pop();
            }
            partOf[i] = around.isEmpty() ? -1 : around.peek();
        }
        return partOf;
    }
}
