package tidybridge.service.run;

import java.io.IOException;
import java.io.UncheckedIOException;
import java.time.ZonedDateTime;
import java.util.regex.Pattern;
import tidybridge.core.answer.JsonRowSink;
import tidybridge.core.answer.RowShape;
import tidybridge.core.answer.RowSink;
import tidybridge.core.answer.RowWriter;
import tidybridge.core.bind.Asked;
import tidybridge.core.bind.BadInput;
import tidybridge.core.bind.Bound;
import tidybridge.core.bind.Inputs;
import tidybridge.core.plan.Choice;
import tidybridge.core.plan.CollectionPlan;
import tidybridge.core.plan.FileColumns;
import tidybridge.core.plan.FilePlan;
import tidybridge.core.plan.HeaderColumn;
import tidybridge.core.plan.NothingPlan;
import tidybridge.core.plan.OneRowPlan;
import tidybridge.core.plan.ReadPlan;
import tidybridge.core.plan.RowPlan;
import tidybridge.core.plan.RowReply;
import tidybridge.core.plan.ValuePlan;
import tidybridge.core.problem.ProblemKind;
import tidybridge.core.sql.TimeLimit;
import tidybridge.engine.ConnectionShare;
import tidybridge.engine.Query;
import tidybridge.engine.Rows;
import tidybridge.engine.SourceFailure;
import tools.jackson.core.exc.JacksonIOException;

/** Runs one operation that is a query, for one request. Used once. */
public final class ReadRun {

    private static final String JSON = "application/json";

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

    /** Binds the inputs. */
    public Bound bind(Inputs inputs) throws BadInput {
        return plan.binder().bind(inputs);
    }

    /**
     * All that the answer depends on.
     *
     * @param address as it was called
     */
    public SharedReads.Key key(String address, Inputs inputs, Bound bound) {
        return SharedReads.Key.of(address, inputs.header("Accept"), operation.writer(inputs, RowShape.WHOLE), bound);
    }

    /**
     * Runs the statement and hands over what it returns.
     *
     * @return false when there is no such row; a collection is always there
     * @throws IOException when the bytes cannot leave
     */
    public boolean run(Bound bound, Inputs inputs) throws BadInput, SourceFailure, Refusal, IOException {
        try (ConnectionShare.Turn turn = operation.source().streams().turn()) {
            answer.takesWhenLong(turn);
            return switch (plan) {
                case CollectionPlan collection -> {
                    rows = new CollectionRun(operation, collection, answer, bound).run(inputs, turn);
                    yield true;
                }
                case OneRowPlan one -> one(one, bound, inputs);
            };
        } catch (UncheckedIOException e) {
            throw e.getCause();
        } catch (JacksonIOException e) {
            // what writes the rows has its own wrapping for bytes that cannot leave
            throw e.getCause();
        }
    }

    private boolean one(OneRowPlan one, Bound bound, Inputs inputs) throws SourceFailure, Refusal {
        Form form = form(one, bound.asked(), inputs);
        Query query = new Query(
                one.statement().variant(bound.values()),
                bound.values(),
                null,
                1,
                ONE_ROW_AHEAD,
                TimeLimit.of(one.timeout()));
        operation.source().read(query, found -> {
            if (found.next() && holdsAnswer(found, one)) {
                rows = 1;
                if (one.reply().readsRow()) {
                    say(found, one.reply());
                }
                write(found, one, form);
            }
        });
        return rows > 0;
    }

    /** A row without its file answers nothing. */
    private static boolean holdsAnswer(Rows found, OneRowPlan one) {
        return !(one instanceof FilePlan file) || found.bytes(file.columns().content()) != null;
    }

    /** How the row is written. */
    private record Form(Rendition rendition, RowWriter writer) {}

    private Form form(OneRowPlan one, Asked asked, Inputs inputs) throws Refusal {
        if (!(one instanceof RowPlan row)) {
            return new Form(Rendition.JSON, operation.writer(inputs, RowShape.WHOLE));
        }
        Rendition rendition = answer.rendition(row.forms().formats(), asked);
        Choice choice = row.forms().choices().choose(asked.fields());
        return new Form(
                rendition, operation.writer(inputs, rendition.format().isTable() ? choice.flat() : choice.nested()));
    }

    private void write(Rows found, OneRowPlan one, Form form) {
        RowWriter writer = form.writer();
        switch (one) {
            case RowPlan row -> {
                answer.rows(form.rendition());
                try (RowSink sink = RowSinks.open(form.rendition(), writer, answer.body())) {
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

    /** The refusal for an answer that may not stream now. */
    public static Refusal longAnswersBusy(RunnableOperation operation) {
        return new Refusal(
                ProblemKind.BUSY,
                "The database has all the long answers under way that it may, which are "
                        + operation.source().streams().most()
                        + "; ask for fewer rows, or try again in a moment.");
    }
}
