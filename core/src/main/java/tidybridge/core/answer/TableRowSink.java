package tidybridge.core.answer;

import java.io.StringWriter;
import java.util.Base64;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** Writes flat rows as cells of a table, whose notation its kinds know: what has no cell of its own becomes a text. */
public abstract class TableRowSink implements RowSink {

    private static final JsonFactory JSON = new JsonFactory();

    /** What JSON writes for no geometry at all. */
    private static final String NOTHING = "null";

    protected TableRowSink() {}

    @Override
    public final void beginPage() {
        // there is nothing around the rows
    }

    @Override
    public final void beginValue() {
        throw unfit();
    }

    @Override
    public final void endValue() {
        throw unfit();
    }

    @Override
    public final void beginList() {
        throw unfit();
    }

    @Override
    public final void endList() {
        throw unfit();
    }

    private static IllegalStateException unfit() {
        return new IllegalStateException("a table has rows and cells");
    }

    @Override
    public final void json(String value) {
        text(value);
    }

    @Override
    public final void bytes(byte[] value) {
        text(Base64.getEncoder().encodeToString(value));
    }

    @Override
    public final void geometry(byte[] value) {
        StringWriter writer = new StringWriter();
        try (JsonGenerator json = JSON.createGenerator(ObjectWriteContext.empty(), writer)) {
            GeoJson.write(value, json);
        }
        String text = writer.toString();
        if (text.equals(NOTHING)) {
            nothing();
        } else {
            text(text);
        }
    }
}
