package tidybridge.core.document;

import java.util.List;

/**
 * What a document tells of an API, as far as a module can have it. Immutable and thread-safe.
 *
 * @param title empty for none
 * @param operations in the document's order
 * @param remarks what could not be taken over, and what is taken over differently
 */
public record DocumentedApi(String title, List<DocumentedOperation> operations, List<Remark> remarks) {

    /** The longest document that is read, in characters. */
    public static final int LONGEST = 4 * 1024 * 1024;

    /** The most operations that are taken from one document. */
    public static final int MOST_OPERATIONS = 1_000;

    /** A sentence about a part of the document. */
    public record Remark(String subject, String words) {}

    public DocumentedApi {
        operations = List.copyOf(operations);
        remarks = List.copyOf(remarks);
    }

    /**
     * Reads an OpenAPI document of the versions 3.0 and 3.1, in JSON or YAML. Nothing but the text is read: what stands in other files is remarked upon.
     *
     * @throws UnreadableDocument when it is none
     */
    public static DocumentedApi ofOpenApi(String text) throws UnreadableDocument {
        return new OpenApiReader(DocumentTree.read(text), new Remarks()).read();
    }

    /**
     * Takes from a sample of rows in JSON what a document would tell of them: an object, a list of objects, or an object around such a list.
     *
     * @param path where they are answered, {@code /berths}
     * @throws UnreadableDocument when it holds no row
     */
    public static DocumentedApi ofSample(String text, String path) throws UnreadableDocument {
        Remarks remarks = new Remarks();
        return new OpenApiReader(new SampleReader(remarks, path).document(DocumentTree.read(text)), remarks).read();
    }
}
