package tidybridge.core.sheet;

import static org.assertj.core.api.Assertions.assertThat;
import static org.assertj.core.api.Assertions.assertThatThrownBy;

import java.io.ByteArrayInputStream;
import java.io.IOException;
import java.io.InputStream;
import java.nio.charset.Charset;
import java.nio.charset.StandardCharsets;
import java.util.List;
import java.util.Map;
import org.jspecify.annotations.Nullable;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.core.TestScope;
import tidybridge.core.sql.Dialect;

class SheetLookTest {

    private static SheetLook look(String csv) throws UnreadableSheet, IOException {
        return look(csv.getBytes(StandardCharsets.UTF_8), null, null);
    }

    private static SheetLook look(byte[] csv, @Nullable Character separator, @Nullable Charset encoding)
            throws UnreadableSheet, IOException {
        try (CsvRows rows = CsvRows.open(new ByteArrayInputStream(csv), separator, encoding)) {
            return SheetLook.of(rows);
        }
    }

    /** The cells of one column, one after the other, between bars. */
    @ParameterizedTest
    @CsvSource(delimiter = '>', textBlock = """
            1|2|-30                                  > int
            1|1234567890                             > bigint
            1|12345678901234567890                   > decimal(20,0)
            1|2.5|-300.125                           > decimal(8,3)
            1|1e5                                    > double
            true|FALSE                               > boolean
            0|1                                      > int
            007|8                                    > varchar(5)
            1,5|2                                    > varchar(5)
            1.234,50|2                               > varchar(10)
            2031-05-01|2031-12-31                    > date
            2031-02-30|2031-12-31                    > varchar(10)
            01.05.2031|02.05.2031                    > varchar(10)
            2031-05-01 09:30|2031-05-01T09:30:15     > datetime
            2031-05-01 09:30|2031-05-01T09:30:15.5   > datetime(6)
            2031-05-01T09:30:00Z|2031-05-01T09:30:00+02:00 > timestamp
            2031-05-01T09:30:00Z|2031-05-01T09:30:00 > varchar(20)
            09:30:00|10:00:00                        > time
            0b8e4a52-6f0d-4c1e-9d57-3a2f1c7e9b10     > uuid
            a|1                                      > varchar(5)
            99999999999999999999999999999999999999999 > varchar(60)
            """)
    void eachTypeIsToldFromAllCells(String cells, String type) throws Exception {
        String csv = "x;y\n" + String.join("\n", cells.replace("|", ";k\n").split("\n", -1)) + ";k\n";
        assertThat(look(csv).columns().getFirst().type()).isEqualTo(type);
    }

    @Test
    void theLastOfManyRowsCounts() throws Exception {
        String many = "id,x\n" + "1,2\n".repeat(20_000) + "2,word\n";
        assertThat(look(many).columns().get(1).type()).isEqualTo("varchar(5)");
        assertThat(look(many).rows()).isEqualTo(20_001);
    }

    @Test
    void whatCouldMeanTwoThingsIsATextAndSaid() throws Exception {
        SheetLook look = look("""
                no,amount,day,sum,empty
                007,"1,5",01.05.2031,=A1+B1,
                008,"2,5",02.05.2031,3,
                """);
        assertThat(look.columns().stream().flatMap(column -> column.notes().stream()))
                .anyMatch(note -> note.contains("zeros"))
                .anyMatch(note -> note.contains("comma"))
                .anyMatch(note -> note.contains("two ways"))
                .anyMatch(note -> note.contains("formulas"))
                .anyMatch(note -> note.contains("No row has a value"));
        assertThat(look.columns().getLast().nullable()).isTrue();
    }

    @Test
    void theTableHasAKeyOrNumbersItsRows() throws Exception {
        assertThat(look("Berth No,Länge (m)\nA1,12.5\nA2,8\n").createTable("berths", Dialect.usual()))
                .isEqualTo("""
                create table berths (
                  berth_no varchar(5) not null primary key comment 'Berth No',
                  lange_m decimal(5,1) not null comment 'Länge (m)'
                )
                """);
        SheetLook twice = look("name,note\na,it's\nA,\\\\\n");
        assertThat(twice.key()).as("one key to most collations").isEmpty();
        assertThat(twice.createTable("order", Dialect.usual()))
                .startsWith("create table `order` (\n  row_no int unsigned not null auto_increment primary key,\n");
    }

    /** Rows are compared a thousand at first, then twice as many again and again. */
    @ParameterizedTest
    @CsvSource({"1023", "1024", "1025", "5000", "200000"})
    void aCellThatComesAgainIsFoundWhereverItStands(int most) throws Exception {
        int rows = TestScope.ALL ? most : Math.min(most, 40_000);
        StringBuilder csv = new StringBuilder("id,x\n");
        for (int i = 0; i < rows; i++) {
            csv.append(i).append(",y\n");
        }
        assertThat(look(csv.toString()).key()).contains("id");
        assertThat(look(csv + "0,y\n").key()).isEmpty();
        assertThat(look(csv + (rows - 1 + ",y\n")).key()).isEmpty();
    }

    @Test
    void namesAreMadeForColumnsThatHaveNone() {
        assertThat(SheetLook.names(List.of("Name", "name", "", "2031", "lastSeen", "row_no", "Ёж")))
                .containsExactly("name", "name_2", "column", "c_2031", "last_seen", "row_no_2", "column_2");
    }

    @Test
    void typesCanBeOthersButNothingElse() throws Exception {
        SheetLook look = look("id,built\n1,1987\n");
        assertThat(look.with(Map.of("built", "varchar(4)")).columns().get(1).type())
                .isEqualTo("varchar(4)");
        for (String type : List.of("int); drop table x; --", "varchar", "enum('a')", "")) {
            assertThatThrownBy(() -> look.with(Map.of("built", type))).isInstanceOf(UnreadableSheet.class);
        }
        assertThatThrownBy(() -> look.with(Map.of("gone", "int"))).hasMessageContaining("no column 'gone'");
    }

    @Test
    void separatorsAndEncodingsAreFound() throws Exception {
        assertThat(look("a\tb\n1\t2\n").columns()).hasSize(2);
        assertThat(look("a;b,c\n1;2,5\n").columns())
                .as("the first of those that stand equally often")
                .hasSize(2);
        assertThat(look("\"a;x\",b\n1,2\n").columns()).hasSize(2);
        assertThat(look("\uFEFFa,b\r\n1,é\r\n").columns().getFirst().heading()).isEqualTo("a");
        byte[] marked = "\uFEFFa,b\n1,é\n".getBytes(StandardCharsets.UTF_16LE);
        assertThat(look(marked, null, null).columns().get(1).examples()).containsExactly("é");
        byte[] old = "a,b\n1,é\n".getBytes(StandardCharsets.ISO_8859_1);
        assertThatThrownBy(() -> look(old, null, null))
                .isInstanceOf(UnreadableSheet.class)
                .hasMessageContaining("not written in UTF-8")
                .hasMessageContaining("windows-1252");
        assertThat(look(old, null, Charset.forName("windows-1252"))
                        .columns()
                        .get(1)
                        .examples())
                .containsExactly("é");
        assertThat(look("a|b\n1,5|2\n".getBytes(StandardCharsets.UTF_8), '|', null)
                        .columns())
                .hasSize(2);
    }

    @Test
    void rowsThatDoNotFitAreToldWithTheirLines() throws Exception {
        SheetLook look = look("""
                a,b
                1,"two
                lines"

                3
                4,5,6
                7,8
                """);
        assertThat(look.rows()).isEqualTo(2);
        assertThat(look.bad()).extracting(SheetLook.BadRow::line).containsExactly(5L, 6L);
        assertThat(look.bad().getFirst().reason()).isEqualTo("It has 1 cell, and the first line names 2 columns.");
        SheetLook many = look("a,b\n" + "1\n".repeat(500));
        assertThat(many.bad()).hasSize(SheetLook.MOST_BAD);
        assertThat(many.moreBad()).isEqualTo(400);
    }

    @ParameterizedTest
    @CsvSource(delimiter = '>', quoteCharacter = '~', textBlock = """
            ''                      > is empty
            a,b                     > no row below
            a,b|1,"open             > quotation marks
            a,b|1,"in" side|2,3     > quotation marks
            """)
    void whatCannotBeReadIsOneSentence(String csv, String words) {
        String text = csv.equals("''") ? "" : csv.replace('|', '\n') + "\n";
        assertThatThrownBy(() -> look(text)).isInstanceOf(UnreadableSheet.class).hasMessageContaining(words);
    }

    @Test
    void whatIsNoTextIsRefused() {
        assertThatThrownBy(() -> look(new byte[] {1, 0, 2, 0, 3}, null, null)).hasMessageContaining("no text has");
        assertThatThrownBy(() -> look("x,".repeat(600) + "\n1\n")).hasMessageContaining("500 are read at most");
    }

    /** A quotation mark that is never closed makes one cell of a whole file; it must not fill the memory. */
    @Test
    void anOpenQuoteInALargeFileIsFoundBeforeItFillsTheMemory() {
        InputStream endless = new InputStream() {
            private final byte[] head = "a,b\n1,\"".getBytes(StandardCharsets.UTF_8);
            private long at;

            @Override
            public int read() {
                return at < head.length ? head[(int) at++] : at++ > 1L << 34 ? -1 : 'x';
            }
        };
        assertThatThrownBy(() -> {
                    try (CsvRows rows = CsvRows.open(endless, null, null)) {
                        SheetLook.of(rows);
                    }
                })
                .isInstanceOf(UnreadableSheet.class)
                .hasMessageContaining("no end within 8 MB");
    }
}
