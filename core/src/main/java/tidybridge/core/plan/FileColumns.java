package tidybridge.core.plan;

import org.jspecify.annotations.Nullable;

/**
 * Where an answer's file is in a row; columns count from 0.
 *
 * @param content the column of the bytes
 * @param type the column of the media type; -1 when all files have the same
 * @param mediaType the media type of all files; null when each has its own
 * @param name the column of the file's name; -1 for files without
 * @param inline true when browsers may show it in place
 */
public record FileColumns(int content, int type, @Nullable String mediaType, int name, boolean inline) {}
