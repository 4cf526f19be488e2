package tidybridge.core.sql;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;
import static tidybridge.core.sql.StatementTest.scan;

import java.util.Random;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.ValueSource;
import tidybridge.core.text.BrokenText;

/** The scanner and its readers on texts that nobody would write: they end, in time, and refuse in words. */
class ScanningTest {

    /** Whatever the text: the scanner ends, and finds no bind parameter where a quote or comment is open. */
    @Test
    void noTextMakesItCrashOrLoop() {
        String[] pieces = {
            "'",
            "\"",
            "`",
            "\\",
            "/*",
            "*/",
            "/*!50000 ",
            "--",
            "-- ",
            "#",
            "\n",
            ":a",
            ":=",
            "(",
            ")",
            ";",
            " ",
            "select",
            "where",
            "and",
            "-- when :a\n",
            "@",
            "@@",
            "é",
            "\0",
            "1",
            "x'"
        };
        Random random = new Random(7);
        for (int i = 0; i < 20_000; i++) {
            StringBuilder sql = new StringBuilder();
            for (int n = random.nextInt(14); n >= 0; n--) {
                sql.append(pieces[random.nextInt(pieces.length)]);
            }
            try {
                Statement statement = scan(sql.toString());
                assertThat(new Renderer(statement).render(name -> true).binds()).hasSameSizeAs(statement.binds());
                new Renderer(statement).render(name -> false);
                statement.outline();
                statement.unanchoredLike();
            } catch (BrokenText | SeveralStatements e) {
                assertThat(e.getMessage()).isNotBlank();
            } catch (Exception e) {
                throw new AssertionError("on: " + sql, e);
            }
        }
    }

    /** Whatever stands where: the outline is read to its end, of half a statement too, as somebody types it. */
    @Test
    void noStatementMakesItsOutlineCrash() throws Exception {
        String[] words = {
            "select",
            "from",
            "where",
            "and",
            "or",
            "on",
            "using",
            "join",
            "left",
            "right",
            "outer",
            "with",
            "recursive",
            "as",
            "group",
            "by",
            "order",
            "limit",
            "1",
            "union",
            "all",
            "insert",
            "into",
            "values",
            "update",
            "set",
            "delete",
            "call",
            "between",
            "in",
            "like",
            "not",
            "is",
            "null",
            "distinct",
            "count",
            "(",
            ")",
            ",",
            ".",
            "=",
            "<",
            "*",
            ":a",
            ":b",
            "t",
            "`u`",
            "b",
            "exists",
            "use",
            "index",
            "over",
            "concat",
            "'%x'",
            "@v",
            "begin",
            "end",
            ";",
            "case",
            "when",
            "if",
            "-- when :a\n"
        };
        Random random = new Random(9);
        int read = 0;
        for (int i = 0; i < 60_000; i++) {
            StringBuilder sql = new StringBuilder(words[random.nextInt(3) == 0 ? random.nextInt(words.length) : 0]);
            for (int n = random.nextInt(12); n > 0; n--) {
                sql.append(' ').append(words[random.nextInt(words.length)]);
            }
            try {
                Statement statement = scan(sql.toString());
                statement.outline();
                statement.unanchoredLike();
                new Renderer(statement).render(name -> name.equals("b"), name -> 2);
                read++;
            } catch (BrokenText | SeveralStatements e) {
                assertThat(e.getMessage()).isNotBlank();
            } catch (RuntimeException e) {
                throw new AssertionError("on: " + sql, e);
            }
        }
        assertThat(read).isGreaterThan(10_000);
    }

    @Test
    void scanningTakesTimeByLengthOnly() throws Exception {
        String line = "  and (b.length_m >= :minLength or 'it''s' = `c`)   -- when :minLength\n";
        Statement statement = scan("select * from t where 1 = 1\n" + line.repeat(2_000));
        assertThat(statement.binds()).hasSize(2_000);
    }

    /** Each of these took quadratic time in a scanner that looks back; a megabyte would take minutes. */
    @ParameterizedTest
    @ValueSource(
            strings = {
                "and a = :a\n",
                "and (a = :a -- when :a\n)\n",
                "and a = 'x' -- when :a\n",
                "/* c */ ",
                "a, ",
                "and a in (select b from c where d = :d)\n"
            })
    @org.junit.jupiter.api.Timeout(20)
    void aMegabyteIsScannedInSeconds(String piece) throws Exception {
        // more bind parameters than a statement may have are made up for by comments between them
        String padded = piece.matches("(?s).*[^n] :.*") ? piece + "/*" + "x".repeat(500) + "*/ " : piece;
        String sql = "select a from t where 1 = 1\n" + padded.repeat(1_000_000 / padded.length()) + "\nand 1 = 1";
        Statement statement = scan(sql);
        statement.outline();
        assertThat(new Renderer(statement).render(name -> false).sql()).startsWith("select a from t where 1 = 1");
    }

    @Test
    void bindParametersAreBounded() {
        assertThatThrownBy(() -> scan("select " + ":a, ".repeat(2_000) + ":a"))
                .hasMessageContaining("more than 2000 bind parameters");
    }

    @Test
    void parenthesesNestToALimit() {
        assertThatThrownBy(() -> scan("select " + "(".repeat(300) + "1" + ")".repeat(300)))
                .hasMessageContaining("deeper than 200 levels");
    }
}
