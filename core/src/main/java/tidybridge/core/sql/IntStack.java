package tidybridge.core.sql;

import java.util.Arrays;

/** A growing stack of offsets. */
final class IntStack {

    private int[] values = new int[8];
    private int size;

    void push(int value) {
        if (size == values.length) {
            values = Arrays.copyOf(values, size * 2);
        }
        values[size++] = value;
    }

    int pop() {
        return values[--size];
    }

    int peek() {
        return values[size - 1];
    }

    int size() {
        return size;
    }

    boolean isEmpty() {
        return size == 0;
    }
}
