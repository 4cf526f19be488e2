package tidybridge.core.answer;

import java.io.OutputStream;
import java.math.BigInteger;
import org.jspecify.annotations.Nullable;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.json.JsonFactory;

/** Writes rows as JSON in UTF-8. */
public final class JsonRowSink implements RowSink {

    private static final JsonFactory JSON = new JsonFactory();

    private final JsonGenerator json;

    public JsonRowSink(OutputStream out) {
        this.json = JSON.createGenerator(ObjectWriteContext.empty(), out);
    }

    @Override
    public void beginPage() {
        json.writeStartObject();
        json.writeArrayPropertyStart("data");
    }

    @Override
    public void endPage(int limit, @Nullable String after, @Nullable String next) {
        json.writeEndArray();
        json.writeObjectPropertyStart("page");
        json.writeNumberProperty("limit", limit);
        if (after != null && next != null) {
            json.writeStringProperty("after", after);
            json.writeStringProperty("next", next);
        }
        json.writeEndObject();
        json.writeEndObject();
    }

    @Override
    public void beginValue() {
        json.writeStartObject();
        json.writeName("value");
    }

    @Override
    public void endValue() {
        json.writeEndObject();
    }

    @Override
    public void beginObject() {
        json.writeStartObject();
    }

    @Override
    public void endObject() {
        json.writeEndObject();
    }

    @Override
    public void beginList() {
        json.writeStartArray();
    }

    @Override
    public void endList() {
        json.writeEndArray();
    }

    @Override
    public void name(FieldName name) {
        json.writeName(name.json());
    }

    @Override
    public void nothing() {
        json.writeNull();
    }

    @Override
    public void integer(long value) {
        json.writeNumber(value);
    }

    @Override
    public void real(double value) {
        json.writeNumber(value);
    }

    @Override
    public void decimal(String digits) {
        json.writeNumber(digits);
    }

    @Override
    public void whole(BigInteger value) {
        json.writeNumber(value);
    }

    @Override
    public void truth(boolean value) {
        json.writeBoolean(value);
    }

    @Override
    public void text(String value) {
        json.writeString(value);
    }

    @Override
    public void json(String value) {
        json.writeRawValue(value);
    }

    @Override
    public void bytes(byte[] value) {
        json.writeBinary(value);
    }

    @Override
    public void geometry(byte[] value) {
        GeoJson.write(value, json);
    }

    @Override
    public void close() {
        json.close();
    }
}
