package tidybridge.core.compare;

import static org.assertj.core.api.Assertions.assertThat;

import java.time.Instant;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.Test;
import tidybridge.core.catalog.Column;
import tidybridge.core.catalog.ColumnType;
import tidybridge.core.catalog.Contents;
import tidybridge.core.catalog.Index;
import tidybridge.core.catalog.Relation;
import tidybridge.core.catalog.Routine;
import tidybridge.core.compare.CatalogDifference.Kind;
import tidybridge.core.contract.CatalogFacts;
import tidybridge.core.definition.ModuleText;
import tidybridge.core.sql.Dialect;

class CatalogComparisonTest {

    private static final ModuleText TEXT = new ModuleText(
            "m",
            Map.of(
                    "a.sql", "select B.id, `name`, count(*) from berth_list b where length > :least",
                    "b.sql", "call book(:id)",
                    "module.yaml", "module: m"));

    private static ColumnType type(String text) {
        return new ColumnType(text, text.replaceAll("[ (].*", ""), false, null, null, null, null, List.of());
    }

    private static Column column(String name, String type, boolean nullable) {
        return new Column(name, type(type), nullable, null, false, false, "");
    }

    private static Relation table(List<Index> indexes, Column... columns) {
        return new Relation("berth", Relation.Kind.TABLE, 1, "", true, null, List.of(columns), indexes, List.of());
    }

    private static final Relation VIEW = new Relation(
            "berth_list",
            Relation.Kind.VIEW,
            -1,
            "",
            true,
            "select id, name, length from berth",
            List.of(column("id", "int", false), column("name", "varchar(40)", true)),
            List.of(),
            List.of());
    private static final Relation OTHER = new Relation(
            "vessel",
            Relation.Kind.TABLE,
            1,
            "",
            true,
            null,
            List.of(column("id", "int", false)),
            List.of(),
            List.of());
    private static final Column ID = column("id", "int", false);
    private static final Column NAME = column("name", "varchar(40)", false);
    private static final Column UNNAMED = column("hue", "varchar(9)", true);
    private static final List<Index> INDEXES = List.of(
            new Index("primary", true, true, List.of("id")),
            new Index("by_name", false, false, List.of("name", "hue")));
    private static final Routine BOOK = routine("int");

    private static Routine routine(String type) {
        return new Routine(
                "book",
                Routine.Kind.PROCEDURE,
                null,
                List.of(new Routine.Parameter("id", Routine.Mode.IN, type(type))),
                Routine.Access.MODIFIES_DATA,
                "");
    }

    private static CatalogFacts facts(List<Relation> relations, Routine... routines) {
        CatalogFacts facts = CatalogFacts.of(
                TEXT, new Contents("waterways", Instant.EPOCH, relations, List.of(routines)), Dialect.usual());
        assertThat(CatalogFacts.read(facts.text())).isEqualTo(facts);
        return facts;
    }

    private static final CatalogFacts COUNTED = facts(List.of(VIEW, OTHER, table(INDEXES, ID, NAME, UNNAMED)), BOOK);

    private static List<Kind> kinds(CatalogFacts held) {
        return CatalogComparison.of(COUNTED, held).differences().stream()
                .map(CatalogDifference::kind)
                .toList();
    }

    @Test
    void onlyWhatIsNamedIsCountedOnAndViewsAreLookedThrough() {
        assertThat(COUNTED.relations())
                .extracting(CatalogFacts.RelationFacts::name)
                .containsExactly("berth", "berth_list");
        assertThat(COUNTED.relations().getFirst().columns())
                .extracting(CatalogFacts.ColumnFacts::name)
                .containsExactly("id", "name");
        assertThat(kinds(facts(List.of(VIEW, table(INDEXES, ID, NAME)), BOOK))).isEmpty();
    }

    @Test
    void whatIsGoneOrHasAnotherFormIsTold() {
        assertThat(kinds(facts(List.of(VIEW), BOOK))).containsExactly(Kind.RELATION_GONE);
        assertThat(kinds(facts(List.of(VIEW, table(INDEXES, ID)), BOOK))).containsExactly(Kind.COLUMN_GONE);
        assertThat(kinds(facts(List.of(VIEW, table(INDEXES, ID, column("name", "varchar(20)", true))), BOOK)))
                .containsExactly(Kind.COLUMN_RETYPED, Kind.COLUMN_NULLABLE);
        assertThat(kinds(facts(List.of(VIEW, table(INDEXES.subList(0, 1), ID, NAME)), BOOK)))
                .containsExactly(Kind.INDEX_GONE);
        assertThat(kinds(facts(List.of(VIEW, table(INDEXES, ID, NAME))))).containsExactly(Kind.ROUTINE_GONE);
        assertThat(kinds(facts(List.of(VIEW, table(INDEXES, ID, NAME)), routine("bigint"))))
                .containsExactly(Kind.ROUTINE_CHANGED);
    }

    @Test
    void anIndexThatBeginsWithTheSameColumnsServesAsWell() {
        List<Index> longer = List.of(
                new Index("primary", true, true, List.of("id")),
                new Index("other", false, false, List.of("name", "hue", "id")));
        assertThat(kinds(facts(List.of(VIEW, table(longer, ID, NAME)), BOOK))).isEmpty();
        List<Index> notUnique = List.of(new Index("primary", false, false, List.of("id")), INDEXES.getLast());
        assertThat(kinds(facts(List.of(VIEW, table(notUnique, ID, NAME)), BOOK)))
                .containsExactly(Kind.INDEX_GONE);
    }

    @Test
    void nothingIsSaidOfWhatIsNotKnown() {
        assertThat(CatalogComparison.of(CatalogFacts.UNKNOWN, COUNTED).differences())
                .isEmpty();
        assertThat(CatalogComparison.of(COUNTED, CatalogFacts.UNKNOWN).differences())
                .isEmpty();
    }

    @Test
    void aStarCountsOnEveryColumn() {
        ModuleText star = new ModuleText("m", Map.of("a.sql", "select b.* from berth b", "module.yaml", "module: m"));
        CatalogFacts facts = CatalogFacts.of(
                star,
                new Contents("waterways", Instant.EPOCH, List.of(table(INDEXES, ID, NAME, UNNAMED)), List.of()),
                Dialect.usual());
        assertThat(facts.relations().getFirst().columns()).hasSize(3);
    }

    /** A table of another schema may be called like one of the source's own. */
    @Test
    void aTableOfAnotherSchemaIsNotTheSourcesOwn() {
        Contents contents =
                new Contents("waterways", Instant.EPOCH, List.of(table(INDEXES, ID, NAME, UNNAMED)), List.of());
        assertThat(relations("select berth.id from harbour.berth", contents)).isEmpty();
        assertThat(relations("select b.id from `harbour`.`berth` b", contents)).isEmpty();
        assertThat(relations("select b.id from `Waterways`.Berth b", contents)).containsExactly("berth");
        assertThat(relations("select a.id from harbour.berth a join berth b on b.id = a.id", contents))
                .containsExactly("berth");
        assertThat(relations("update berth set name = :name", contents)).containsExactly("berth");
        assertThat(relations("delete from berth where id = :id", contents)).containsExactly("berth");
        assertThat(relations("update harbour.berth set name = :name", contents)).isEmpty();
        assertThat(relations("insert into harbour.berth (id) values (:id)", contents))
                .isEmpty();
        assertThat(relations("insert into berth (id) select id from harbour.berth", contents))
                .containsExactly("berth");
    }

    private static List<String> relations(String sql, Contents contents) {
        return CatalogFacts.of(new ModuleText("m", Map.of("a.sql", sql)), contents, Dialect.usual())
                .relations()
                .stream()
                .map(CatalogFacts.RelationFacts::name)
                .toList();
    }
}
