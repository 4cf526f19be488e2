package tidybridge.service.run;

import java.io.OutputStream;
import tidybridge.core.answer.CsvRowSink;
import tidybridge.core.answer.JsonRowSink;
import tidybridge.core.answer.NdjsonRowSink;
import tidybridge.core.answer.RowSink;
import tidybridge.core.answer.RowWriter;

/** Opens what writes rows in a notation. */
final class RowSinks {

    private RowSinks() {}

    /**
     * A sink for the rows of a writer.
     *
     * @param writer what the rows are written with, which knows the columns of a table
     */
    static RowSink open(Rendition rendition, RowWriter writer, OutputStream out) {
        return switch (rendition.format()) {
            case JSON -> new JsonRowSink(out);
            case NDJSON -> new NdjsonRowSink(out);
            case CSV -> new CsvRowSink(out, writer.names(), rendition.header());
            case XLSX -> new XlsxRowSink(out, writer.names(), rendition.header());
        };
    }
}
