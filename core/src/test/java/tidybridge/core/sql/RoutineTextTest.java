package tidybridge.core.sql;

import static org.assertj.core.api.Assertions.assertThat;

import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;

class RoutineTextTest {

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            false | false | begin insert into t values (1); end
            true  | false | begin select a from t; end
            true  | false | select 1
            false | false | begin select a into x from t; set y = (select 1); end
            true  | false | begin if a then select 1; end if; end
            true  | false | begin with x as (select 1) select * from x; end
            false | true  | begin insert into t values (1); commit; end
            false | true  | begin start transaction; insert into t values (1); end
            false | true  | begin declare exit handler for sqlexception rollback; set a = 1; end
            false | true  | begin declare exit handler for sqlexception begin rollback; resignal; end; end
            false | false | begin savepoint s; rollback to savepoint s; rollback to s; end
            false | false | begin create temporary table x (a int); drop temporary table x; end
            false | false | begin create or replace temporary table x (a int); end
            false | true  | begin create table x (a int); end
            false | true  | begin truncate table x; end
            false | false | begin insert into t select 'commit; rollback' from u; end
            false | false | begin select 'open
            """)
    void aBodyTellsWhetherItReturnsRowsAndEndsTransactions(boolean returns, boolean ends, String body) {
        RoutineText text = RoutineText.read(body, Dialect.usual()).orElse(new RoutineText(false, false));
        assertThat(text).isEqualTo(new RoutineText(returns, ends));
    }
}
