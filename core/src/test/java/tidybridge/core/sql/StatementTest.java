package tidybridge.core.sql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static org.assertj.core.api.Assertions.catchThrowableOfType;

import java.util.List;
import java.util.Set;
import org.junit.jupiter.api.Nested;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.text.BrokenText;
import tidybridge.core.text.SourceText;

class StatementTest {

    static Statement scan(String sql) throws Exception {
        return Statement.scan(new SourceText("test.sql", sql), Dialect.usual());
    }

    static String render(String sql, String... given) throws Exception {
        return new Renderer(scan(sql)).render(Set.of(given)::contains).sql();
    }

    static List<String> binds(String sql) throws Exception {
        return scan(sql).binds().stream().map(Bind::name).toList();
    }

    @Nested
    class BindParameters {

        @Test
        void areFoundInOrderWithTheirPlaces() throws Exception {
            Statement statement = scan("select *\nfrom t where a = :one and b in (:two, :one)");
            assertThat(statement.binds()).extracting(Bind::name).containsExactly("one", "two", "one");
            assertThat(statement.binds().getFirst().place()).hasToString("test.sql:2:18");
            assertThat(new Renderer(statement).render(name -> true).sql())
                    .isEqualTo("select * from t where a = ? and b in (?, ?)");
        }

        @ParameterizedTest
        @ValueSource(
                strings = {
                    "select ':no'",
                    "select 'it''s :no'",
                    "select 'it\\'s :no'",
                    "select \":no\"",
                    "select `:no` from t",
                    "select 1 -- :no",
                    "select 1 # :no",
                    "select 1 /* :no */",
                    "select '12:30:00', '$.a:b'",
                    "select @x := 1",
                    "select @`:no`",
                    "select @@session.sql_mode",
                    "select 1 /* a /* :no */",
                    "select x'3a', b'01', _utf8mb4':no', N':no'",
                    "select a::no from t"
                })
        void areNotFoundInsideLiteralsCommentsAndVariables(String sql) throws Exception {
            assertThat(binds(sql)).isEmpty();
        }

        @ParameterizedTest
        @CsvSource({"'select 5--:n',n", "'select a-:n',n", "'select :n;',n", "'select(:n)',n", "'select /*! :n */ 1',n"
        })
        void areFoundBesideSigns(String sql, String name) throws Exception {
            assertThat(binds(sql)).containsExactly(name);
        }
    }

    @Nested
    class ConditionalLines {

        private static final String SEARCH = """
                select * from t
                where
                  a = :a          -- when :a
                  and b >= :b     -- when :b
                  and c = 1       -- an ordinary remark
                order by a
                """;

        @Test
        void stayWhenTheirParameterIsGiven() throws Exception {
            assertThat(render(SEARCH, "a", "b"))
                    .isEqualTo("select * from t where a = ? and b >= ? and c = 1 order by a");
        }

        @Test
        void vanishOtherwiseAndTakeTheLeadingAndAlong() throws Exception {
            assertThat(render(SEARCH, "b")).isEqualTo("select * from t where b >= ? and c = 1 order by a");
            assertThat(render(SEARCH)).isEqualTo("select * from t where c = 1 order by a");
        }

        @Test
        void takeTheWholeClauseAlongWhenNothingIsLeft() throws Exception {
            String sql = "select * from t\nwhere a = :a -- when :a\norder by a";
            assertThat(render(sql)).isEqualTo("select * from t order by a");
            assertThat(render(sql, "a")).isEqualTo("select * from t where a = ? order by a");
        }

        @Test
        void takeTheClauseAlongAtTheEndAndInsideParentheses() throws Exception {
            assertThat(render("select * from t\nwhere a = :a -- when :a")).isEqualTo("select * from t");
            assertThat(render("select (select max(x) from t\nwhere a = :a -- when :a\n) as m"))
                    .isEqualTo("select (select max(x) from t ) as m");
        }

        @Test
        void runOnToWhereTheirParenthesesClose() throws Exception {
            String sql = """
                    select * from t where b = 1
                      and exists (    -- when :tag
                        select 1 from tags g
                        where g.id = t.id and g.tag = :tag)
                      and c = 2
                    """;
            assertThat(render(sql)).isEqualTo("select * from t where b = 1 and c = 2");
            assertThat(render(sql, "tag"))
                    .contains("and exists ( select 1 from tags g where g.id = t.id and g.tag = ?)");
        }

        @Test
        void mayWaitForSeveralParametersAndStandInsideEachOther() throws Exception {
            String sql = """
                    select * from t where b = 1
                      and (          -- when :a
                        x = :a
                        or y = :b    -- when :b and :c
                      )
                    """;
            assertThat(render(sql, "a")).isEqualTo("select * from t where b = 1 and ( x = ? )");
            assertThat(render(sql, "a", "b")).isEqualTo("select * from t where b = 1 and ( x = ? )");
            assertThat(render(sql, "a", "b", "c")).isEqualTo("select * from t where b = 1 and ( x = ? or y = ? )");
            assertThat(render(sql, "b", "c")).isEqualTo("select * from t where b = 1");
        }

        @Test
        void coverJoins() throws Exception {
            String sql = "select * from t\njoin u on u.id = t.u and u.n = :n -- when :n\nwhere t.x = 1";
            assertThat(render(sql)).isEqualTo("select * from t where t.x = 1");
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        select 1\\n-- when :a\\n        | stands alone
                        select (1\\n) + 2 -- when :a    | closes a parenthesis opened above
                        select 'a\\nb' -- when :a       | starts inside a quoted text
                        select 1 -- when :a or :b       | a marking reads
                        select 1 -- when :a and         | a marking reads
                        """)
        void areRefusedWhereTheyCannotBeLeftOut(String sql, String reason) {
            assertThatThrownBy(() -> scan(sql.replace("\\n", "\n"))).hasMessageContaining(reason);
        }

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        select * from t order by\\n a, -- when :a\\n b | select * from t order by b
                        select * from t order by\\n a,\\n b -- when :b | select * from t order by a
                        select * from t order by\\n a -- when :a | select * from t
                        select * from t order by\\n a -- when :a\\n , b -- when :b | select * from t
                        select * from t\\n order by a -- when :a\\n limit 5 | select * from t limit 5
                        select * from t\\n limit :n -- when :n | select * from t
                        select * from t where a = 1 and\\n b = :b -- when :b\\n order by a | select * from t where a = 1 order by a
                        select * from t where\\n a = :a and -- when :a\\n b = 1 | select * from t where b = 1
                        select * from t where a = 1 and\\n b = :b and -- when :b\\n c = 2 | select * from t where a = 1 and c = 2
                        select * from t where a = 1 and (\\n b = :b -- when :b\\n or c = :c -- when :c\\n) | select * from t where a = 1
                        select * from t where not (\\n b = :b -- when :b\\n) and c = 1 | select * from t where c = 1
                        select * from t where (\\n b = :b -- when :b\\n) | select * from t
                        select a,\\n b -- when :b\\n from t | select a from t
                        select\\n a, -- when :a\\n b from t | select b from t
                        select b, count(*) from t group by\\n a, -- when :a\\n b having\\n b > :n -- when :n | select b, count(*) from t group by b
                        select * from t where a in (1,\\n :b -- when :b\\n) | select * from t where a in (1 )
                        select * from t where exists (select 1 from u where\\n u.a = :a -- when :a\\n) | select * from t where exists (select 1 from u )
                        """)
        void leaveAStatementWhereverTheyStand(String sql, String bare) throws Exception {
            assertThat(render(sql.replace("\\n", "\n"))).isEqualTo(bare);
        }

        @Test
        void areOnlyMarkedByAColon() throws Exception {
            assertThat(scan("select 1 -- when the basin is full").whens()).isEmpty();
        }
    }

    @Nested
    class Lists {

        private static final String SQL = "select * from t where a in (:list) and b not in ( :list ) and c = :list";

        private static Rendered with(int size) throws Exception {
            return new Renderer(scan(SQL)).render(name -> true, name -> size);
        }

        @Test
        void takeAsManyMarksAsTheyHaveInsideIn() throws Exception {
            assertThat(with(2).sql()).isEqualTo("select * from t where a in (?, ?) and b not in ( ?, ? ) and c = ?");
            assertThat(with(2).slots()).extracting(Rendered.Slot::item).containsExactly(0, 1, 0, 1, -1);
        }

        @Test
        void mayBeEmpty() throws Exception {
            assertThat(with(0).sql())
                    .isEqualTo("select * from t where a in (select null from dual where false)"
                            + " and b not in ( select null from dual where false ) and c = ?");
        }

        @Test
        void areToldByTheirParenthesesAlone() throws Exception {
            assertThat(scan(SQL).binds()).extracting(Bind::inList).containsExactly(true, true, false);
            assertThat(scan("select * from t where a in (:x, 1) and f(:y)").binds())
                    .noneMatch(Bind::inList);
        }
    }

    @ParameterizedTest
    @ValueSource(
            strings = {
                "begin not atomic select 1; select 2; end",
                "begin not atomic if 1 then select 1; end if; select if(1, 2, 3); end;",
                "work: begin case 1 when 1 then select 1; end case; end work"
            })
    void aBlockIsOneScript(String sql) throws Exception {
        assertThat(scan(sql).kind()).isEqualTo(StatementKind.SCRIPT);
    }

    @Test
    void aBodyBelongsToItsDefinition() throws Exception {
        assertThat(scan("create procedure p() begin declare x int; loop set x = 1; end loop; end;")
                        .kind())
                .isEqualTo(StatementKind.DDL);
        assertThatThrownBy(() -> scan("create procedure p() begin select 1; end; select 2"))
                .isInstanceOf(SeveralStatements.class);
        assertThatThrownBy(() -> scan("begin; select 1; commit")).isInstanceOf(SeveralStatements.class);
    }

    @Nested
    class BrokenTexts {

        @ParameterizedTest
        @CsvSource(delimiter = '|', textBlock = """
                        select 'open            | test.sql:1:8  | text opened here is never closed
                        select "open            | test.sql:1:8  | quoted text opened here is never closed
                        select `open            | test.sql:1:8  | quoted name opened here is never closed
                        select 'open\\          | test.sql:1:8  | never closed
                        select 1 /* open        | test.sql:1:10 | comment opened here is never closed
                        select 1 /*! open       | test.sql:1:10 | executable comment opened here is never closed
                        select (1               | test.sql:1:8  | parenthesis opened here is never closed
                        select 1)               | test.sql:1:9  | closes nothing
                        """)
        void nameTheSpot(String sql, String place, String reason) {
            BrokenText broken = catchThrowableOfType(BrokenText.class, () -> scan(sql));
            assertThat(broken.place()).hasToString(place);
            assertThat(broken.reason()).contains(reason);
        }

        @ParameterizedTest
        @ValueSource(strings = {"", "  \n ", "-- nothing\n", "/* nothing */", ";"})
        void mayBeEmpty(String sql) {
            assertThatThrownBy(() -> scan(sql)).isInstanceOf(BrokenText.class).hasMessageContaining("no statement");
        }

        @Test
        void mayHoldASecondStatement() {
            SeveralStatements several =
                    catchThrowableOfType(SeveralStatements.class, () -> scan("select 1;\n-- and\ndelete from t"));
            assertThat(several.place()).hasToString("test.sql:3:1");
        }
    }

    @ParameterizedTest
    @CsvSource({
        "select 1,QUERY",
        "(select 1) union (select 2),QUERY",
        "with x as (select 1) select * from x,QUERY",
        "with x as (select 1) delete from t,DELETE",
        "values (1),QUERY",
        "insert into t values (1),INSERT",
        "update t set a = 1,UPDATE",
        "replace into t values (1),REPLACE",
        "call p(),CALL",
        "drop table t,DDL",
        "set @x = 1,SET",
        "lock tables t read,SESSION",
        "frobnicate,UNKNOWN"
    })
    void kindsAreToldFromTheFirstWords(String sql, StatementKind kind) throws Exception {
        assertThat(scan(sql).kind()).isEqualTo(kind);
    }

    @Test
    void topLevelWordsAreThoseOutsideParentheses() throws Exception {
        assertThat(scan("select (select 1 order by 1)").topLevel(Word.ORDER)).isEmpty();
        assertThat(scan("select 1\norder by 1").topLevel(Word.ORDER).orElseThrow())
                .hasToString("test.sql:2:1");
    }
}
