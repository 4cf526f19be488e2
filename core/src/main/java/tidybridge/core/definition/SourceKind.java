package tidybridge.core.definition;

/** The kinds of database a source can be. */
public enum SourceKind {
    MARIADB
}
