package tidybridge.core.document;

import java.util.ArrayList;
import java.util.List;
import tidybridge.core.definition.AnswerKind;
import tidybridge.core.definition.In;
import tidybridge.core.definition.Method;

/** What is usually done with rows, as if a document had told of it: one is read, added, changed and removed. */
public final class UsualOperations {

    private UsualOperations() {}

    /**
     * Those beside a collection.
     *
     * @param rows what answers with rows, or with one of them
     * @param key the field that tells the rows apart
     * @return none where the field is not there
     */
    public static List<DocumentedOperation> beside(DocumentedOperation rows, String key) {
        DocumentedField found = rows.answer().fields().stream()
                .filter(field -> field.name().equals(key) && key.matches("[A-Za-z_][A-Za-z0-9_]*"))
                .findFirst()
                .orElse(null);
        if (found == null) {
            return List.of();
        }
        String one = rows.path() + "/{" + key + "}";
        DocumentedInput path =
                new DocumentedInput(key, In.PATH, "", found.value().withoutNull(), true, null);
        List<DocumentedField> fields = rows.answer().fields();
        List<DocumentedInput> needed = new ArrayList<>();
        List<DocumentedInput> wanted = new ArrayList<>(List.of(path));
        for (DocumentedField field : fields) {
            if (!field.equals(found) && field.name().indexOf('.') < 0) {
                boolean required = !field.value().nullable();
                needed.add(part(field, required));
                wanted.add(part(field, false));
            }
        }
        List<DocumentedOperation> operations = new ArrayList<>();
        if (rows.answer().kind() == AnswerKind.ROWS) {
            operations.add(operation(Method.GET, one, "One row", List.of(path), fields, 200));
        }
        operations.add(operation(Method.POST, rows.path(), "Add a row", needed, fields, 201));
        operations.add(operation(Method.PATCH, one, "Change a row; what is left out stays", wanted, fields, 200));
        operations.add(operation(Method.DELETE, one, "Remove a row", List.of(path), List.of(), 204));
        return operations;
    }

    private static DocumentedInput part(DocumentedField field, boolean required) {
        return new DocumentedInput(field.name(), In.BODY, "/" + field.name(), field.value(), required, null);
    }

    private static DocumentedOperation operation(
            Method method,
            String path,
            String about,
            List<DocumentedInput> inputs,
            List<DocumentedField> fields,
            int status) {
        AnswerKind kind = fields.isEmpty() ? AnswerKind.NOTHING : AnswerKind.ROW;
        return new DocumentedOperation(
                method,
                path,
                null,
                about,
                false,
                inputs,
                new DocumentedAnswer(kind, status, fields, null),
                List.of(status));
    }
}
