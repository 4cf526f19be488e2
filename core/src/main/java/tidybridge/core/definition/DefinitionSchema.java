package tidybridge.core.definition;

import java.io.IOException;
import java.io.InputStream;
import java.io.UncheckedIOException;
import java.util.Optional;

/** The JSON Schemas (2020-12) of the text files, by which editors complete and check them while they are written. */
public enum DefinitionSchema {
    WORKSPACE("workspace.schema.json"),
    MODULE("module.schema.json");

    private final String file;

    DefinitionSchema(String file) {
        this.file = file;
    }

    /** The name under which it is shipped and served. */
    public String file() {
        return file;
    }

    /** Finds a schema by its file's name. */
    public static Optional<DefinitionSchema> named(String file) {
        for (DefinitionSchema schema : values()) {
            if (schema.file.equals(file)) {
                return Optional.of(schema);
            }
        }
        return Optional.empty();
    }

    /** The schema's text in UTF-8. */
    public byte[] bytes() {
        try (InputStream in = DefinitionSchema.class.getResourceAsStream(file)) {
            if (in == null) {
                throw new IOException(file + " is not beside " + DefinitionSchema.class);
            }
            return in.readAllBytes();
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }
}
