package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.FirstStatement;
import tidybridge.core.catalog.ForeignKey;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;
import tidybridge.engine.Source;
import tidybridge.engine.SourceProbe;
import tidybridge.engine.SourceSettings;

/** What the management API shows of sources, as its OpenAPI document describes it. Secrets are no part of it. */
final class SourceViews {

    private SourceViews() {}

    record SourcesView(List<SourceView> sources) {}

    record SourceView(
            String name,
            String kind,
            String about,
            String host,
            int port,
            String schema,
            String user,
            String transport,
            boolean readOnly,
            int connections,
            int busy,
            long patienceMillis,
            long timeoutMillis) {

        static SourceView of(Source source) {
            SourceSettings settings = source.settings();
            return new SourceView(
                    settings.name(),
                    Views.label(settings.kind()),
                    settings.about(),
                    settings.host(),
                    settings.port(),
                    settings.schema(),
                    settings.user(),
                    Views.label(settings.transport()),
                    settings.readOnly(),
                    settings.connections(),
                    source.busy(),
                    settings.patience().toMillis(),
                    settings.timeout().toMillis());
        }
    }

    record TestView(String name, String address, boolean passed, List<StepView> steps) {
        static TestView of(SourceSettings settings, List<SourceProbe.Step> steps) {
            return new TestView(
                    settings.name(),
                    settings.address(),
                    steps.getLast().passed(),
                    steps.stream()
                            .map(step ->
                                    new StepView(Views.label(step.what()), step.passed(), step.detail(), step.millis()))
                            .toList());
        }
    }

    record StepView(String step, boolean passed, String detail, long millis) {}

    record ReloadedView(List<String> changed) {}

    record SampleView(List<String> columns, List<List<@Nullable String>> rows) {}

    record ContentsView(
            String source, String schema, Instant readAt, List<RelationView> relations, List<RoutineView> routines) {
        static ContentsView of(Source source, Contents contents) {
            FirstStatement first = new FirstStatement(source.catalog().dialect());
            return new ContentsView(
                    source.settings().name(),
                    contents.schema(),
                    contents.readAt(),
                    contents.relations().stream()
                            .map(relation -> RelationView.of(relation, first))
                            .toList(),
                    contents.routines().stream()
                            .map(routine -> RoutineView.of(routine, first))
                            .toList());
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record RelationView(
            String name,
            String kind,
            @Nullable Long rows,
            String about,
            List<ColumnView> columns,
            List<IndexView> indexes,
            List<ForeignKeyView> foreignKeys,
            String statement) {

        static RelationView of(Relation relation, FirstStatement first) {
            return new RelationView(
                    relation.name(),
                    Views.label(relation.kind()),
                    relation.rows() < 0 ? null : relation.rows(),
                    relation.about(),
                    relation.columns().stream().map(ColumnView::of).toList(),
                    relation.indexes().stream().map(IndexView::of).toList(),
                    relation.foreignKeys().stream().map(ForeignKeyView::of).toList(),
                    first.of(relation));
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record ColumnView(
            String name,
            String type,
            boolean nullable,
            @Nullable String defaultText,
            boolean generated,
            boolean numbered,
            @Nullable String collation,
            String about) {

        static ColumnView of(Column column) {
            return new ColumnView(
                    column.name(),
                    column.type().text(),
                    column.nullable(),
                    column.defaultText(),
                    column.generated(),
                    column.numbered(),
                    column.type().collation(),
                    column.about());
        }
    }

    record IndexView(String name, boolean unique, boolean primary, List<String> columns) {
        static IndexView of(Index index) {
            return new IndexView(index.name(), index.unique(), index.primary(), index.columns());
        }
    }

    record ForeignKeyView(String name, List<String> columns, String target, List<String> targets) {
        static ForeignKeyView of(ForeignKey key) {
            return new ForeignKeyView(key.name(), key.columns(), key.target(), key.targets());
        }
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record RoutineView(
            String name,
            String kind,
            @Nullable String returns,
            String access,
            String about,
            List<RoutineParameterView> parameters,
            String statement) {

        static RoutineView of(Routine routine, FirstStatement first) {
            ColumnType returns = routine.returns();
            return new RoutineView(
                    routine.name(),
                    Views.label(routine.kind()),
                    returns == null ? null : returns.text(),
                    Views.label(routine.access()),
                    routine.about(),
                    routine.parameters().stream()
                            .map(parameter -> new RoutineParameterView(
                                    parameter.name(),
                                    Views.label(parameter.mode()),
                                    parameter.type().text()))
                            .toList(),
                    first.of(routine));
        }
    }

    record RoutineParameterView(String name, String mode, String type) {}
}
