package tidybridge.service.run;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.ZonedDateTime;
import java.util.regex.Pattern;
import org.jspecify.annotations.Nullable;
import tidybridge.core.answer.JsonRowSink;
import tidybridge.core.answer.RowSink;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FileColumns;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.GivenFilters;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.PageOrder;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.ValuePlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.engine.ConnectionShare;
import tidybridge.engine.Query;
import tidybridge.engine.Rows;
import tidybridge.engine.SourceFailure;
import tools.jackson.core.exc.JacksonIOException;

/** Runs one operation that is a query, for one request. Used once. */
public final class ReadRun {

    private static final String JSON = "application/json";

    /** Longer pages are read from the database as they are written; one row's answers never collect more than they need. */
    private static final int LONG_PAGE_ROWS = 500;

    /** Beyond this many rows nobody waits for the whole: the first byte leaves early. */
    private static final int EXPORT_ROWS = 5_000;

    private static final int READ_AHEAD_ROWS = 500;
    private static final int ONE_ROW_AHEAD = 2;

    private static final Pattern MEDIA_TYPE =
            Pattern.compile("[A-Za-z0-9!#$&^_.+-]{1,80}/[A-Za-z0-9!#$&^_.+-]{1,80}(; ?charset=[A-Za-z0-9-]{1,40})?");
    private static final String UNKNOWN_TYPE = "application/octet-stream";

    private final RunnableOperation operation;
    private final ReadPlan plan;
    private final ReadAnswer answer;
    private long rows;

    public ReadRun(RunnableOperation operation, ReadPlan plan, ReadAnswer answer) {
        this.operation = operation;
        this.plan = plan;
        this.answer = answer;
    }

    /** How many rows were read for the answer. */
    public long rows() {
        return rows;
    }

    /**
     * Binds the inputs, runs the statement and hands over what it returns.
     *
     * @return false when there is no such row; a collection is always there
     * @throws IOException when the bytes cannot leave
     */
    public boolean run(Inputs inputs) throws BadInput, SourceFailure, Refusal, IOException {
        Bound bound = plan.binder().bind(inputs);
        RowWriter writer = operation.writer(inputs);
        try (ConnectionShare.Turn turn = operation.source().streams().turn()) {
            answer.takesWhenLong(turn);
            return switch (plan) {
                case CollectionPlan collection -> page(collection, bound, writer, turn);
                case OneRowPlan one -> one(one, bound, writer);
            };
        } catch (UncheckedIOException e) {
            throw e.getCause();
        } catch (JacksonIOException e) {
            // what writes the rows has its own wrapping for bytes that cannot leave
            throw e.getCause();
        }
    }

    private boolean one(OneRowPlan one, Bound bound, RowWriter writer) throws SourceFailure {
        Query query = new Query(
                one.statement().variant(bound.values()), bound.values(), null, 1, ONE_ROW_AHEAD, one.timeout());
        operation.source().read(query, found -> {
            if (found.next() && holdsAnswer(found, one)) {
                rows = 1;
                if (one.reply().readsRow()) {
                    say(found, one.reply());
                }
                write(found, one, writer);
            }
        });
        return rows > 0;
    }

    /** A row without its file answers nothing. */
    private static boolean holdsAnswer(Rows found, OneRowPlan one) {
        return !(one instanceof FilePlan file) || found.bytes(file.columns().content()) != null;
    }

    private void write(Rows found, OneRowPlan one, RowWriter writer) {
        switch (one) {
            case RowPlan row -> {
                answer.mediaType(JSON);
                try (RowSink sink = new JsonRowSink(answer.body())) {
                    writer.write(found, sink);
                }
            }
            case ValuePlan value -> {
                answer.mediaType(JSON);
                try (RowSink sink = new JsonRowSink(answer.body())) {
                    sink.beginValue();
                    writer.writeValue(found, sink);
                    sink.endValue();
                }
            }
            case FilePlan file -> writeFile(found, file.columns());
            case NothingPlan nothing -> {}
        }
    }

    /** What the row says beside the body. */
    private void say(Rows found, RowReply reply) {
        for (HeaderColumn header : reply.headers()) {
            String value = found.text(header.column());
            if (value != null) {
                answer.field(header.name(), value);
            }
        }
        RowReply.TagPlan tagged = reply.tag();
        String tag = tagged == null || tagged.column() < 0 ? null : EntityTags.of(tagged, found.text(tagged.column()));
        if (tag != null) {
            answer.tag(tag);
        }
        ZonedDateTime modified = reply.modified() < 0 ? null : DatabaseTimes.read(found.text(reply.modified()));
        if (modified != null) {
            answer.modified(modified);
        }
    }

    private void writeFile(Rows found, FileColumns file) {
        byte[] content = found.bytes(file.content());
        if (content == null) {
            return;
        }
        answer.file(mediaType(found, file), file.name() < 0 ? null : found.text(file.name()), file.inline());
        try {
            answer.body().write(content);
        } catch (IOException e) {
            throw new UncheckedIOException(e);
        }
    }

    private static String mediaType(Rows found, FileColumns file) {
        String fixed = file.mediaType();
        if (fixed != null) {
            return fixed;
        }
        String type = found.text(file.type());
        return type != null && MEDIA_TYPE.matcher(type).matches() ? type : UNKNOWN_TYPE;
    }

    private boolean page(CollectionPlan collection, Bound bound, RowWriter writer, ConnectionShare.Turn turn)
            throws SourceFailure, BadInput, Refusal {
        answer.mediaType(JSON);
        GivenFilters filters = collection.filters().take(bound.values());
        PageOrder order = collection.sorts().order(bound.sort());
        String scope = collection.label() + " " + order.label() + filters.label();
        PagePosition position = PagePosition.read(operation.continuation(), scope, order, bound.after());
        int limit = bound.limit();
        if (limit > EXPORT_ROWS) {
            answer.expectLong();
            if (!turn.await()) {
                throw longAnswersBusy(operation);
            }
        }
        Query query = new Query(
                collection
                        .statement()
                        .variant(
                                bound.values(),
                                order.from(position.start(), position.nulls()).with(filters)),
                bound.values(),
                position.values(),
                limit + 1,
                limit > LONG_PAGE_ROWS ? READ_AHEAD_ROWS : 0,
                collection.timeout());
        operation.source().read(query, found -> writePage(found, order, scope, limit, writer));
        return true;
    }

    /** The refusal for an answer that may not stream now. */
    public static Refusal longAnswersBusy(RunnableOperation operation) {
        return new Refusal(
                ProblemKind.BUSY,
                "The database has all the long answers under way that it may, which are "
                        + operation.source().streams().most()
                        + "; ask for fewer rows, or try again in a moment.");
    }

    private void writePage(Rows found, PageOrder order, String scope, int limit, RowWriter writer) {
        try (RowSink sink = new JsonRowSink(answer.body())) {
            sink.beginPage();
            String first = null;
            @Nullable String[] last = null;
            int count = 0;
            while (count < limit && found.next()) {
                writer.write(found, sink);
                if (count++ == 0) {
                    first = PagePosition.value(found, order.keys().getFirst());
                }
                if (count == limit) {
                    last = PagePosition.values(found, order);
                }
            }
            rows = count;
            String after = last != null && found.next()
                    ? PagePosition.write(operation.continuation(), scope, first, last)
                    : null;
            sink.endPage(limit, after, after == null ? null : answer.continued(after));
        }
    }
}
