package tidybridge.core.sql;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.text.SourceText;

/** Statements that change data, as far as their text tells. */
class ChangeStatementTest {

    private static Statement scan(String sql) throws Exception {
        return Statement.scan(new SourceText("a.sql", sql), Dialect.usual());
    }

    @Test
    void bindsOfStepsAreOneName() throws Exception {
        Statement statement = scan("insert into t (a, b, c) values (:vessel.id, :lock , ':x.y') -- :z.a");
        assertThat(statement.binds()).extracting(Bind::name).containsExactly("vessel.id", "lock");
        assertThat(new Renderer(statement).render(name -> true).sql())
                .isEqualTo("insert into t (a, b, c) values (?, ? , ':x.y')");
        assertThat(scan("select :a.1 + :b.").binds()).extracting(Bind::name).containsExactly("a", "b");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            a   | update t set x = ? where id = ?
            b   | update t set y = ? where id = ?
            ab  | update t set x = ? , y = ? where id = ?
            ''  | update t set x = x where id = ?
            """)
    void assignmentsVanishWithTheirCommas(String given, String expected) throws Exception {
        Statement statement =
                scan("update t\\nset x = :a -- when :a\\n  , y = :b -- when :b\\nwhere id = :id".replace("\\n", "\n"));
        assertThat(new Renderer(statement)
                        .render(name -> name.equals("id") || given.contains(name))
                        .sql()
                        .replaceAll("\\s+", " "))
                .isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            true  | delete from t
            true  | update t set a = 1
            true  | delete from t where 1 = 1
            true  | delete from t where true
            true  | delete from t¶where b = :b -- when :b
            true  | delete from t where 1 = 1¶ and b = :b -- when :b
            true  | update t set a = 1¶where b = :b -- when :b¶ or c = :c -- when :c¶limit 5
            true  | update t set a = 1¶where not (¶ b = :b -- when :b¶)
            false | delete from t where b = 1
            false | delete from t where `b`
            false | delete from t¶where b = :b -- when :b¶ and c = 1
            false | delete from t where c = 1¶ and b = :b -- when :b
            false | delete from t where is_old(1)
            false | update t set a = 1 where exists (select 1 from u)
            false | select 1 from t
            false | insert into t select 1 from u
            """)
    void aChangeOfEveryRowIsNoticedInEveryForm(boolean every, String sql) throws Exception {
        assertThat(scan(sql.replace("¶", "\n")).changesEveryRow(name -> false)).isEqualTo(every);
    }

    @Test
    void anUnchangedColumnKeepsItsQuotesAndAlias() throws Exception {
        Statement statement = scan("update t as c\nset c.`two words` = :a -- when :a\nlimit 1");
        assertThat(new Renderer(statement).render(name -> false).sql().replaceAll("\\s+", " "))
                .isEqualTo("update t as c set c.`two words` = c.`two words` limit 1");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            update t set a = 1 where b = :b and c in (select c from u) | select id from t where b = ? and c in (select c from u)
            update low_priority `t` as x set a = 1 order by a limit 2  | select id from `t` as x order by a limit 2
            delete from t where b = :b returning id                    | select id from t where b = ?
            delete ignore from t                                       | select id from t
            """)
    void theRowsOfAChangeCanBeAskedFor(String sql, String expected) throws Exception {
        Statement statement = scan(sql);
        ChangeTarget target = statement.target().orElseThrow();
        assertThat(new Renderer(statement)
                        .rows(target, "id", name -> true, name -> -1)
                        .sql())
                .isEqualTo(expected);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            update t, u set t.a = u.a where t.id = u.id
            update t join u on t.id = u.id set t.a = 1
            delete t from t join u on t.id = u.id
            update other.t set a = 1
            select 1
            call p(1)
            """)
    void changesOfSeveralTablesHaveNoSingleTarget(String sql) throws Exception {
        assertThat(scan(sql).target().filter(target -> target.rest() <= target.end() && target.to() > target.from()))
                .isEmpty();
    }

    @Test
    void whatIsReturnedAndReplacedIsKnown() throws Exception {
        assertThat(new Renderer(scan("insert into `my t` (a) values (:a) returning id, concat(a, 'x') as b"))
                        .returned(name -> null))
                .contains("select id, concat(a, 'x') as b from `my t`");
        assertThat(new Renderer(scan("insert into t values (1)")).returned(name -> null))
                .isEmpty();
        assertThat(scan("replace into t values (1)").replacesRows()).isTrue();
        assertThat(scan("insert into t values (1) on duplicate key update a = 1")
                        .replacesRows())
                .isTrue();
        assertThat(scan("insert into t values (1)").replacesRows()).isFalse();
        assertThat(scan("delete from t returning id").returnsRows()).isTrue();
        assertThat(scan("call w.p(:a, f(:b, 2), 'x,y')").called()).contains("p");
        assertThat(scan("call w.p(:a, f(:b, 2), 'x,y')").arguments()).isEqualTo(3);
        assertThat(scan("call p()").arguments()).isZero();
        assertThat(scan("call p").arguments()).isZero();
    }
}
