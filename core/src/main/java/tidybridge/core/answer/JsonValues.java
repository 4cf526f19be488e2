package tidybridge.core.answer;

import java.io.OutputStream;
import java.math.BigInteger;
import tools.jackson.core.JsonGenerator;
import tools.jackson.core.ObjectWriteContext;
import tools.jackson.core.StreamWriteFeature;
import tools.jackson.core.json.JsonFactory;

/** Writes values as JSON in UTF-8. What is left open when it is closed stays open, so that nobody takes it for whole. */
abstract sealed class JsonValues implements RowSink permits JsonRowSink, NdjsonRowSink {

    final JsonGenerator json;

    JsonValues(JsonFactory factory, OutputStream out) {
        this.json = factory.createGenerator(ObjectWriteContext.empty(), out);
    }

    /** What no answer closes by itself. */
    static JsonFactory factory(String betweenRoots) {
        return JsonFactory.builder()
                .disable(StreamWriteFeature.AUTO_CLOSE_CONTENT)
                .rootValueSeparator(betweenRoots)
                .build();
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
