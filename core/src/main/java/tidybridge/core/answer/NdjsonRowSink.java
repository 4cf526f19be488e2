package tidybridge.core.answer;

import java.io.OutputStream;
import tools.jackson.core.json.JsonFactory;

/** Writes rows as one JSON object a line, in UTF-8. A line break follows each of them. */
public final class NdjsonRowSink extends JsonValues {

    private static final JsonFactory LINES = factory("");

    private int depth;

    public NdjsonRowSink(OutputStream out) {
        super(LINES, out);
    }

    @Override
    public void beginPage() {
        // there is nothing around the rows
    }

    @Override
    public void endPage(PageEnd end) {
        // nor behind them
    }

    @Override
    public void beginObject() {
        depth++;
        super.beginObject();
    }

    @Override
    public void endObject() {
        super.endObject();
        if (--depth == 0) {
            json.writeRaw('\n');
        }
    }

    /** A line that is no JSON. */
    @Override
    public void cutOff() {
        json.writeRaw("\n{\"cutOff\": \"these rows end before the last one\"\n");
        json.flush();
    }
}
