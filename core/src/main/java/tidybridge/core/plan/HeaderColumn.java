package tidybridge.core.plan;

/** A header field and the column of its value, counted from 0. */
public record HeaderColumn(String name, int column) {}
