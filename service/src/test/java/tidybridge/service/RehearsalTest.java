package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Set;
import java.util.TreeSet;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.demo.Until;
import tools.jackson.databind.JsonNode;

/** Changes that are run for real, looked at and undone. */
class RehearsalTest {

    private static final String YAML = """
            module: shelves
            version: 1.0.0
            title: Shelves
            source: waterways
            public: true
            routes:
              /boxes:
                post:
                  about: Put a box down
                  sql: add.sql
                  answer: row
                  parameters: { label: { in: body, type: string, required: true, example: a } }
                delete:
                  about: Remove those above
                  sql: remove.sql
                  answer: row
                  changes: { most: 50 }
                  parameters: { above: { in: query, type: integer, required: true, example: 3 } }
              /boxes/{id}:
                get:
                  about: A box
                  sql: box.sql
                  answer: row
                  tag: representation
                  parameters: { id: { in: path, type: integer, example: 1 } }
                patch:
                  about: Write on a box
                  sql: label.sql
                  answer: nothing
                  precondition: required
                  parameters:
                    id: { in: path, type: integer, example: 1 }
                    label: { in: body, type: string, nullable: true, example: a }
              /boxes/many:
                post:
                  about: Many boxes
                  sql: add.sql
                  answer: row
                  batch: { outcome: together }
                  parameters: { label: { in: body, type: string, required: true, example: a } }
              /tidy:
                post: { about: A procedure, sql: tidy.sql, answer: row }
              /tidied:
                get: { about: The same where nothing may be written, sql: tidy.sql, answer: row }
              /commits:
                post: { about: A procedure that commits, sql: commits.sql, answer: nothing }
              /alters:
                post: { about: A procedure that changes the schema, sql: alters.sql, answer: nothing }
              /scraps:
                post:
                  about: Into a table without transactions
                  sql: scrap.sql
                  answer: nothing
                  accept: { change-not-undone: only for the test }
            """;

    private static final Map<String, String> SQL = Map.of(
            "add.sql", "insert into box (label) values (:label)",
            "remove.sql", "delete from box where id > :above",
            "box.sql", "select id, label from box where id = :id",
            "label.sql", "update box\nset label = :label -- when :label\nwhere id = :id",
            "tidy.sql", "call box_tidy()",
            "commits.sql", "call box_commits()",
            "alters.sql", "call box_alters()",
            "scrap.sql", "insert into box_scrap values (1)");

    private static final String USER = DemoDatabase.SOURCE_USER + "@'127.0.0.1'";

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table box (id int not null auto_increment primary key, label varchar(20) null)",
                "create or replace table box_item (box_id int not null, item varchar(20) not null, primary key (box_id, item),"
                        + " foreign key (box_id) references box (id) on delete cascade)",
                "create or replace table box_log (id int not null auto_increment primary key, what varchar(60) not null)",
                "create or replace table box_scrap (n int) engine = myisam",
                "create or replace table box_large (id int not null auto_increment primary key, n int not null)",
                "create or replace trigger box_written after update on box for each row"
                        + " insert into box_log (what) values (concat('label of ', new.id))",
                "create or replace procedure box_tidy() begin update box set label = 'tidy' where id = 2;"
                        + " insert into box_large (n) values (7); delete from box_item where box_id = 1; end",
                "create or replace procedure box_commits() begin update box set label = 'kept'; commit; end",
                "create or replace procedure box_alters() begin update box set label = 'kept'; alter table box_log add x int; end",
                "insert into box_large (n) select seq from seq_1_to_150000",
                "analyze table box_large",
                "grant insert, update, delete on waterways.box to " + USER,
                "grant insert on waterways.box_scrap to " + USER);
        service = RunningService.fresh();
        HttpResponse<String> published = service.publish(YAML, SQL);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @AfterAll
    static void stop() throws Exception {
        Connections.assertComeBack(service);
        service.close();
        TestDatabase.execute(
                "waterways",
                "drop procedure box_tidy",
                "drop procedure box_commits",
                "drop procedure box_alters",
                "drop table box_item, box_log, box_scrap, box_large, box");
    }

    @BeforeEach
    void boxes() throws Exception {
        TestDatabase.execute(
                "waterways",
                "delete from box",
                "delete from box_log",
                "insert into box (id, label) values (1, 'one'), (2, 'two'), (3, 'three'), (4, 'four')",
                "insert into box_item values (1, 'rope'), (4, 'chain'), (4, 'hook')");
    }

    private static JsonNode rehearse(String method, String path, Map<String, String> inputs, Object... more)
            throws Exception {
        Map<String, Object> request =
                new HashMap<>(Map.of("live", "shelves/v1", "method", method, "path", path, "inputs", inputs));
        for (int i = 0; i < more.length; i += 2) {
            request.put((String) more[i], more[i + 1]);
        }
        HttpResponse<String> response = service.post("/desk/trials", request);
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    private static Set<String> tables(JsonNode trial) {
        Set<String> tables = new TreeSet<>();
        trial.at("/rehearsal/tables")
                .forEach(table -> tables.add("%s +%d ~%d -%d"
                        .formatted(
                                table.path("table").asString(),
                                table.path("inserted").asInt(),
                                table.path("changed").asInt(),
                                table.path("deleted").asInt())));
        return tables;
    }

    private static List<String> everything() throws Exception {
        return TestDatabase.column("""
                select concat_ws(',', id, label) from box union all select concat(box_id, item) from box_item
                union all select what from box_log union all select count(*) from box_large order by 1""");
    }

    @Test
    void aDeleteShowsWhatGoesWithItAndKeepsEverything() throws Exception {
        List<String> before = everything();
        JsonNode trial =
                rehearse("DELETE", "/boxes", Map.of("above", "3"), "watches", List.of("select count(*) as n from box"));
        assertThat(trial.at("/answer/body").asString()).isEqualTo("{\"changed\":1}");
        assertThat(tables(trial)).containsExactly("box +0 ~0 -1", "box_item +0 ~0 -2");
        assertThat(trial.at("/rehearsal/deleted").asInt()).isEqualTo(1);
        assertThat(trial.at("/rehearsal/watched/0/before/0/0").asString()).isEqualTo("4");
        assertThat(trial.at("/rehearsal/watched/0/after/0/0").asString()).isEqualTo("3");
        assertThat(everything()).isEqualTo(before);
    }

    @Test
    void anUpdateShowsFieldsBeforeAndAfterAndWhatTriggersWrote() throws Exception {
        JsonNode trial = rehearse("PATCH", "/boxes/{id}", Map.of("id", "2", "If-Match", "*", "label", "wet"));
        assertThat(trial.at("/answer/status").asInt()).as(trial.toString()).isEqualTo(204);
        assertThat(tables(trial)).containsExactly("box +0 ~1 -0", "box_log +1 ~0 -0");
        JsonNode row = trial.at("/rehearsal/tables/0/rows/0");
        assertThat(row.path("kind").asString()).isEqualTo("changed");
        assertThat(row.at("/fields/0").toString())
                .isEqualTo("{\"name\":\"id\",\"key\":true,\"before\":\"2\",\"after\":\"2\"}");
        assertThat(row.at("/fields/1").toString())
                .isEqualTo("{\"name\":\"label\",\"key\":false,\"before\":\"two\",\"after\":\"wet\"}");
        assertThat(trial.at("/rehearsal/notes").toString()).contains("not given back");
        assertThat(everything()).contains("2,two").doesNotContain("label of 2");
        JsonNode nulled = rehearse("PATCH", "/boxes/2", Map.of("If-Match", "*"), "body", "{\"label\":null}");
        assertThat(nulled.at("/rehearsal/tables/0/rows/0/fields/1/after").isNull())
                .isTrue();
        assertThat(rehearse("PATCH", "/boxes/2", Map.of("label", "wet"))
                        .at("/answer/status")
                        .asInt())
                .isEqualTo(428);
    }

    /** A table that is gone since the catalog was read is not looked for. */
    @Test
    void aTableThatIsGoneKeepsNothingFromBeingRehearsed() throws Exception {
        TestDatabase.execute("waterways", "create or replace table gone_box (id int primary key)");
        service.post("/desk/sources/waterways/refresh", Map.of());
        TestDatabase.execute("waterways", "drop table gone_box");
        // the catalog is read anew once what was read is a second old
        Until.seen(
                () -> rehearse("PATCH", "/boxes/{id}", Map.of("id", "2", "If-Match", "*", "label", "wet"))
                        .at("/answer/status")
                        .asInt(),
                status -> status == 204);
    }

    @Test
    void aProcedureIsSeenThroughWhateverItTouches() throws Exception {
        JsonNode trial = rehearse("POST", "/tidy", Map.of());
        assertThat(tables(trial))
                .containsExactly("box +0 ~1 -0", "box_item +0 ~0 -1", "box_large +1 ~0 -0", "box_log +1 ~0 -0");
        assertThat(everything()).contains("1rope", "2,two", "150000");
        JsonNode read = rehearse("GET", "/tidied", Map.of());
        assertThat(read.at("/answer/status").asInt())
                .as("a get cannot write, here as there")
                .isEqualTo(500);
        JsonNode many = rehearse("POST", "/boxes/many", Map.of(), "body", "[{\"label\":\"a\"},{\"label\":\"b\"}]");
        assertThat(tables(many)).containsExactly("box +2 ~0 -0");
    }

    @Test
    void whatCannotBeUndoneIsRefusedBeforeItIsKept() throws Exception {
        for (String path : new String[] {"/commits", "/alters"}) {
            JsonNode trial = rehearse("POST", path, Map.of());
            assertThat(trial.at("/answer/status").asInt()).as(path).isEqualTo(409);
            assertThat(trial.at("/answer/body").asString()).contains("cannot be undone");
            assertThat(trial.has("rehearsal")).isFalse();
        }
        JsonNode scrap = rehearse("POST", "/scraps", Map.of());
        assertThat(scrap.at("/answer/body").asString()).contains("box_scrap", "cannot undo");
        assertThat(TestDatabase.column("select count(*) from box_scrap")).containsExactly("0");
        assertThat(everything()).contains("1,one", "2,two", "3,three", "4,four");
    }

    @Test
    void refusalsAnswerAsTheyWouldAndEveryRehearsalIsAudited() throws Exception {
        JsonNode trial = rehearse("DELETE", "/boxes", Map.of("above", "x"));
        assertThat(trial.at("/answer/status").asInt()).isEqualTo(400);
        JsonNode watched = rehearse("DELETE", "/boxes", Map.of("above", "3"), "watches", List.of("delete from box"));
        assertThat(watched.at("/answer/body").asString()).contains("must be one query");
        rehearse("DELETE", "/boxes", Map.of("above", "3"));
        assertThat(
                        TestDatabase.column(
                                "select concat_ws(' | ', who, action, subject, detail) from tidy_records.audit_entry order by id desc limit 1"))
                .containsExactly(
                        "administrator | rehearse | shelves/v1 DELETE /boxes | answered 200, 0 written, 0 updated, 1 deleted, undone");
        assertThat(service.post("/desk/trials", Map.of("live", "shelfs/v1", "method", "GET", "path", "/boxes"))
                        .statusCode())
                .isEqualTo(404);
        assertThat(service.post("/desk/trials", Map.of("method", "GET", "path", "/boxes"))
                        .statusCode())
                .isEqualTo(400);
    }
}
