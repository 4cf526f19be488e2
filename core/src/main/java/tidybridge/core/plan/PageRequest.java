package tidybridge.core.plan;

/**
 * What a caller asks of a collection, as far as it decides how the statement is written. It keys the statement's kept forms, so it is
 * cheap to compare: {@link PageOrder#from} hands out the same ones again and again.
 */
public record PageRequest(PageOrder order, Start start) {}
