package tidybridge.core.answer;

import java.io.OutputStream;
import tidybridge.core.catalog.RowCount;
import tools.jackson.core.json.JsonFactory;

/** Writes rows as JSON in UTF-8. */
public final class JsonRowSink extends JsonValues {

    private static final JsonFactory JSON = factory(" ");

    public JsonRowSink(OutputStream out) {
        super(JSON, out);
    }

    @Override
    public void beginPage() {
        json.writeStartObject();
        json.writeArrayPropertyStart("data");
    }

    @Override
    public void endPage(PageEnd end) {
        json.writeEndArray();
        json.writeObjectPropertyStart("page");
        json.writeNumberProperty("limit", end.limit());
        if (end.all()) {
            json.writeNumberProperty("rows", end.rows());
        }
        if (end.count() != null) {
            count(end.count());
        }
        if (end.before() != null && end.prev() != null) {
            json.writeStringProperty("before", end.before());
            json.writeStringProperty("prev", end.prev());
        }
        if (end.after() != null) {
            json.writeStringProperty("after", end.after());
        }
        if (end.next() == null) {
            json.writeBooleanProperty("last", true);
        } else {
            json.writeStringProperty("next", end.next());
        }
        json.writeEndObject();
        json.writeEndObject();
    }

    private void count(RowCount count) {
        switch (count) {
            case RowCount.Exact exact -> json.writeNumberProperty("total", exact.rows());
            case RowCount.Estimate estimate -> {
                json.writeObjectPropertyStart("estimate");
                json.writeNumberProperty("rows", estimate.rows());
                json.writeNumberProperty("least", estimate.least());
                if (estimate.most() >= 0) {
                    json.writeNumberProperty("most", estimate.most());
                }
                json.writeEndObject();
            }
        }
    }
}
