package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.Socket;
import java.net.http.HttpRequest.BodyPublishers;
import java.net.http.HttpResponse;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.concurrent.Callable;
import java.util.concurrent.ExecutorService;
import java.util.concurrent.Executors;
import java.util.concurrent.Future;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.params.ParameterizedTest;
import org.junit.jupiter.params.provider.CsvSource;
import tidybridge.demo.DemoDatabase;
import tidybridge.demo.TestDatabase;
import tidybridge.engine.Sources;
import tools.jackson.databind.JsonNode;

/** Everything that changes data, over HTTP against a real database. */
class ChangesTest {

    private static final String YAML = """
            module: stores
            version: 1.0.0
            title: Stores
            source: waterways
            public: true
            conditions:
              crate_in_shed: { status: 422, message: No shed has this number., field: shed }
            routes:
              /crates:
                post:
                  about: Put a crate down
                  sql: add.sql
                  answer: row
                  fields: { key: { name: id }, changed: { hide: true } }
                  location: /crates/{key}
                  conditions:
                    crate_label: { status: 409, message: A crate has this label already., field: label }
                    '45009': { status: 418 }
                  parameters:
                    label: { in: body, type: string, required: true, example: A1 }
                    kilos: { in: body, type: number, example: 12.5 }
                    shed: { in: body, type: integer, example: 1 }
                delete:
                  about: Clear out
                  sql: clear.sql
                  answer: row
                  changes: { most: 3 }
                  preview: true
                  parameters:
                    above: { in: query, type: number, required: true, example: 10 }
                    shed: { in: query, type: integer, example: 1 }
              /crates/returned:
                post:
                  about: Put a crate down and hand the row back
                  sql: add-returning.sql
                  answer: row
                  status: 201
                  parameters:
                    label: { in: form, type: string, required: true, example: A1 }
                    kilos: { in: form, type: number, example: 12.5 }
              /crates/all:
                post:
                  about: Many at once
                  sql: add.sql
                  answer: row
                  status: 201
                  batch: { most: 10000, outcome: together }
                  conditions: { crate_label: { status: 409, message: Twice., field: label } }
                  parameters:
                    label: { in: body, type: string, required: true, example: A1 }
                    kilos: { in: body, type: number, example: 12.5 }
                    shed: { in: body, type: integer, example: 1 }
              /crates/each:
                post:
                  about: Many, each for itself
                  sql: add.sql
                  answer: row
                  status: 201
                  batch: { outcome: separate }
                  parameters:
                    label: { in: body, type: string, required: true, example: A1 }
                    kilos: { in: body, type: number, example: 12.5 }
                    shed: { in: body, type: integer, example: 1 }
                patch:
                  about: Reweigh many
                  sql: weigh.sql
                  answer: row
                  batch: { outcome: together }
                  parameters:
                    id: { in: body, type: integer, required: true, example: 1 }
                    kilos: { in: body, type: number, example: 12.5 }
                    label: { in: body, type: string, nullable: true, example: A1 }
              /crates/{id}:
                get:
                  about: A crate
                  sql: crate.sql
                  answer: row
                  tag: { column: version }
                  modified: changed_at
                  fields: { version: { hide: true }, changed_at: { hide: true } }
                  parameters: { id: { in: path, type: integer, example: 1 } }
                put:
                  about: Replace a crate
                  sql: replace.sql
                  answer: nothing
                  parameters:
                    id: { in: path, type: integer, example: 1 }
                    label: { in: body, type: string, required: true, example: A1 }
                    kilos: { in: body, type: number, example: 12.5 }
                patch:
                  about: Change a crate
                  sql: weigh.sql
                  answer: nothing
                  precondition: required
                  parameters:
                    id: { in: path, type: integer, example: 1 }
                    label: { in: body, type: string, nullable: true, example: A1 }
                    kilos: { in: body, type: number, example: 12.5 }
                delete:
                  about: Take a crate away
                  sql: remove.sql
                  answer: nothing
                  parameters: { id: { in: path, type: integer, example: 1 } }
              /crates/{id}/weight:
                get:
                  about: As it is shown
                  sql: weight.sql
                  answer: row
                  tag: representation
                  parameters: { id: { in: path, type: integer, example: 1 } }
                put:
                  about: Weigh it
                  sql: set-weight.sql
                  answer: nothing
                  parameters:
                    id: { in: path, type: integer, example: 1 }
                    kilos: { in: body, type: number, required: true, example: 12.5 }
              /crates/{id}/all:
                delete:
                  about: A statement that forgets its key
                  sql: careless.sql
                  answer: nothing
                  parameters: { id: { in: path, type: integer, example: 1 } }
              /moves:
                post:
                  about: Carry weight from one crate to another
                  steps:
                    source: { sql: crate.sql, with: { id: from }, expect: row, otherwise: { status: 422, message: There is nothing to take from., field: from } }
                    busy: { sql: busy.sql, expect: no-row, otherwise: { status: 409, message: 'Crate {label} is sealed.' } }
                    less: { sql: less.sql }
                    more: { sql: more.sql }
                    noted: { sql: note.sql }
                    shown: { sql: crate.sql, with: { id: to } }
                  answered-by: shown
                  answer: row
                  location: /moves/{noted.key}
                  isolation: serializable
                  conditions: { crate_weight: { status: 422, message: It does not weigh that much., field: kilos } }
                  parameters:
                    from: { in: body, type: integer, required: true, example: 1 }
                    to: { in: body, type: integer, required: true, example: 2 }
                    kilos: { in: body, type: number, required: true, example: 2 }
              /tallies:
                post:
                  about: A procedure with everything
                  sql: tally.sql
                  answer: row
                  results: { heavy: rows, heaviest: row, none: rows }
                  reply: { status: the_status, message: the_words, headers: { X-Counted: counted } }
                  parameters:
                    least: { in: body, type: number, required: true, example: 1 }
                    running: { in: body, type: integer, required: true, example: 1 }
                get:
                  about: The same, which must not write
                  sql: tally.sql
                  answer: row
                  parameters:
                    least: { in: query, type: number, required: true, example: 1 }
                    running: { in: query, type: integer, required: true, example: 1 }
              /quiet:
                post:
                  about: A procedure that says nothing
                  sql: quiet.sql
                  answer: row
              /slow:
                post:
                  about: Takes its time
                  sql: slow.sql
                  answer: nothing
                  timeout: 500ms
                  parameters: { id: { in: body, type: integer, required: true, example: 1 } }
              /once:
                post:
                  about: Only with a key
                  sql: add.sql
                  answer: row
                  idempotency-key: required
                  location: /crates/{key}
                  parameters:
                    label: { in: body, type: string, required: true, example: A1 }
                    kilos: { in: body, type: number, example: 12.5 }
                    shed: { in: body, type: integer, example: 1 }
            """;

    private static final Map<String, String> SQL = new HashMap<>(Map.ofEntries(
            Map.entry("add.sql", "insert into crate (label, kilos, shed_id) values (:label, :kilos, :shed)"),
            Map.entry(
                    "add-returning.sql",
                    "insert into crate (label, kilos) values (:label, :kilos) returning id, label, kilos"),
            Map.entry("clear.sql", "delete from crate where kilos > :above\n and shed_id = :shed -- when :shed"),
            Map.entry("crate.sql", "select id, label, kilos, version, changed_at from crate where id = :id"),
            Map.entry("weight.sql", "select id, kilos from crate where id = :id"),
            Map.entry(
                    "replace.sql",
                    "insert into crate (id, label, kilos) values (:id, :label, :kilos)"
                            + " on duplicate key update label = value(label), kilos = value(kilos), version = version + 1"),
            Map.entry(
                    "weigh.sql",
                    "update crate\nset label = :label -- when :label\n , kilos = :kilos -- when :kilos\n , version = version + 1 -- when :kilos\n"
                            + "where id = :id"),
            Map.entry("set-weight.sql", "update crate set kilos = :kilos where id = :id"),
            Map.entry("remove.sql", "delete from crate where id = :id"),
            Map.entry("careless.sql", "update crate set kilos = 0 where id > :id"),
            Map.entry("busy.sql", "select label from crate where id = :source.id and sealed for update"),
            Map.entry("less.sql", "update crate set kilos = kilos - :kilos where id = :source.id"),
            Map.entry("more.sql", "update crate set kilos = kilos + :kilos where id = :to"),
            Map.entry(
                    "note.sql",
                    "insert into crate_move (from_id, to_id, kilos, was) values (:from, :to, :kilos, :source.kilos)"),
            Map.entry("tally.sql", "call tally(:least, :running, :counted, :the_status, :the_words)"),
            Map.entry("quiet.sql", "call hush()"),
            Map.entry("slow.sql", "update crate set kilos = kilos + sleep(3) where id = :id")));

    private static RunningService service;

    @BeforeAll
    static void start() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table shed (id int primary key)",
                "insert into shed values (1)",
                """
                create or replace table crate (
                  id int not null auto_increment primary key, label varchar(10) null, kilos decimal(6,2) null,
                  shed_id int null, sealed boolean not null default false, version int not null default 1,
                  changed_at timestamp not null default current_timestamp on update current_timestamp,
                  unique key crate_label (label), constraint crate_in_shed foreign key (shed_id) references shed (id),
                  constraint crate_weight check (kilos >= 0))""",
                """
                create or replace table crate_move (
                  id int not null auto_increment primary key, from_id int not null, to_id int not null,
                  kilos decimal(6,2) not null, was decimal(6,2) null)""",
                """
                create or replace trigger crate_rule before insert on crate for each row
                if new.label = 'gold' then signal sqlstate '45009' set message_text = 'Gold goes to the office.';
                elseif new.label = 'odd' then signal sqlstate '45000' set message_text = 'An odd crate.'; end if""",
                """
                create or replace procedure tally(in least decimal(6,2), inout running int, out counted int, out the_status int, out the_words varchar(60))
                begin
                  select count(*) into counted from crate where kilos >= least;
                  set running = running + counted;
                  insert into crate_move (from_id, to_id, kilos) values (0, 0, 0);
                  select label, kilos from crate where kilos >= least order by kilos;
                  select label from crate where kilos >= least order by kilos desc limit 1;
                  if least > 100 then
                    set the_status = 409, the_words = 'Nothing weighs that much.';
                  end if;
                end""",
                "create or replace procedure hush() update crate set kilos = kilos + 1",
                "grant insert, update, delete on waterways.crate to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'",
                "grant insert, update, delete on waterways.crate_move to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        service = RunningService.fresh();
        HttpResponse<String> published = service.publish(YAML, SQL);
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
    }

    @AfterAll
    static void stop() throws Exception {
        assertThat(service.context().getBean(Sources.class).all())
                .as("connections that were not given back")
                .allSatisfy(source -> assertThat(source.busy()).isZero());
        service.close();
        TestDatabase.execute(
                "waterways",
                "drop procedure tally",
                "drop procedure hush",
                "drop table crate_move",
                "drop table crate",
                "drop table shed");
    }

    @BeforeEach
    void crates() throws Exception {
        TestDatabase.execute(
                "waterways",
                "delete from crate",
                "delete from crate_move",
                "insert into crate (id, label, kilos) values (1, 'one', 10), (2, 'two', 20), (3, 'three', 30), (4, 'four', 40)");
    }

    private static HttpResponse<String> send(String method, String path, String body, String... headers)
            throws Exception {
        var request = service.request("/api/stores/v1" + path)
                .method(method, body.isEmpty() ? BodyPublishers.noBody() : BodyPublishers.ofString(body));
        if (!body.isEmpty()) {
            request.header("Content-Type", "application/json");
        }
        for (int i = 0; i < headers.length; i += 2) {
            request.setHeader(headers[i], headers[i + 1]);
        }
        return RunningService.send(request);
    }

    private static String header(HttpResponse<String> response, String name) {
        return response.headers().firstValue(name).orElse("");
    }

    private static String one(String sql) throws Exception {
        return TestDatabase.column(sql).getFirst();
    }

    private static void problem(HttpResponse<String> response, int status, String... words) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        assertThat(header(response, "Content-Type")).isEqualTo("application/problem+json");
        assertThat(response.body()).contains("\"status\":" + status).doesNotContain("crate_", "onstraint", "SQL");
        for (String word : words) {
            assertThat(response.body()).contains(word);
        }
    }

    @Test
    void anInsertAnswersWithTheKeyAndWhereItIs() throws Exception {
        HttpResponse<String> made = send("POST", "/crates", "{\"label\":\"new\",\"kilos\":1.5}");
        assertThat(made.statusCode()).isEqualTo(201);
        int id = RunningService.json(made).path("id").asInt();
        assertThat(header(made, "Location")).isEqualTo("/api/stores/v1/crates/" + id);
        assertThat(made.body()).isEqualTo("{\"id\":" + id + "}");
        assertThat(service.get(header(made, "Location")).body())
                .isEqualTo("{\"id\":%d,\"label\":\"new\",\"kilos\":1.50}".formatted(id));
        HttpResponse<String> form = send(
                "POST", "/crates/returned", "label=form&kilos=2", "Content-Type", "application/x-www-form-urlencoded");
        assertThat(form.statusCode()).isEqualTo(201);
        assertThat(form.body()).contains("\"label\":\"form\",\"kilos\":2.00");
    }

    @Test
    void putReplacesAndDeleteRemoves() throws Exception {
        assertThat(send("PUT", "/crates/1", "{\"label\":\"uno\"}").statusCode()).isEqualTo(204);
        assertThat(one("select concat_ws(',', label, ifnull(kilos, 'null')) from crate where id = 1"))
                .isEqualTo("uno,null");
        HttpResponse<String> made = send("PUT", "/crates/77", "{\"label\":\"far\",\"kilos\":7}");
        assertThat(made.statusCode()).isEqualTo(204);
        assertThat(made.body()).isEmpty();
        assertThat(header(made, "ETag")).startsWith("\"1-");
        assertThat(send("PUT", "/crates/77", "{\"label\":\"far\",\"kilos\":7}", "If-None-Match", "*")
                        .statusCode())
                .isEqualTo(412);
        assertThat(send("PUT", "/crates/78", "{\"label\":\"no\"}", "If-Match", "*")
                        .statusCode())
                .isEqualTo(412);
        assertThat(send("DELETE", "/crates/77", "").statusCode()).isEqualTo(204);
        problem(send("DELETE", "/crates/77", ""), 404, "Nothing is kept here");
        assertThat(one("select count(*) from crate where id in (77, 78)")).isEqualTo("0");
    }

    @Test
    void aPatchChangesWhatItNamesAndNothingElse() throws Exception {
        String any = "If-Match";
        String merge = "application/merge-patch+json";
        assertThat(send("PATCH", "/crates/1", "{\"kilos\":11}", any, "*", "Content-Type", merge)
                        .statusCode())
                .isEqualTo(204);
        assertThat(one("select concat_ws(',', label, kilos, version) from crate where id = 1"))
                .isEqualTo("one,11.00,2");
        assertThat(send("PATCH", "/crates/1", "{\"label\":null}", any, "*").statusCode())
                .isEqualTo(204);
        assertThat(one("select concat(ifnull(label, 'null'), ',', kilos) from crate where id = 1"))
                .isEqualTo("null,11.00");
        assertThat(send("PATCH", "/crates/1", "{}", any, "*").statusCode()).isEqualTo(204);
        assertThat(one("select version from crate where id = 1")).isEqualTo("2");
        problem(send("PATCH", "/crates/1", "{\"kilos\":null}", any, "*"), 400, "'/kilos' must not be null");
        problem(send("PATCH", "/crates/1", "{\"sealed\":true}", any, "*"), 400, "/sealed' is not known here");
        problem(send("PATCH", "/crates/1", "", any, "*"), 400, "The body is missing");
        problem(send("PATCH", "/crates/99", "{\"kilos\":1}", any, "*"), 404);
        assertThat(header(send("OPTIONS", "/crates/1", ""), "Accept-Patch")).contains(merge);
    }

    @Test
    void aChangeStopsAtItsLimitAndTellsBeforehandHowMuchItWouldTouch() throws Exception {
        assertThat(send("DELETE", "/crates?above=1&preview=count", "").body())
                .isEqualTo("{\"matching\":4,\"most\":3,\"allowed\":false}");
        problem(send("DELETE", "/crates?above=1", ""), 422, "4 rows", "at most 3");
        assertThat(one("select count(*) from crate")).isEqualTo("4");
        assertThat(send("DELETE", "/crates?above=10&preview=count", "").body()).contains("\"allowed\":true");
        assertThat(one("select count(*) from crate")).isEqualTo("4");
        assertThat(send("DELETE", "/crates?above=10", "").body()).isEqualTo("{\"changed\":3}");
        assertThat(send("DELETE", "/crates?above=10&shed=1", "").body()).isEqualTo("{\"changed\":0}");
        problem(send("DELETE", "/crates?above=10&preview=count&preview=count", ""), 400, "more than once");
        problem(send("DELETE", "/crates?above=10&preview=rows", ""), 400, "can only be 'count'");
        problem(send("DELETE", "/crates/1/all?preview=count", ""), 400, "'preview' is not known here");
        TestDatabase.execute("waterways", "insert into crate (label, kilos) values ('x', 1), ('y', 1)");
        problem(send("DELETE", "/crates/0/all", ""), 422, "at most 1");
        assertThat(one("select count(*) from crate where kilos = 0")).isEqualTo("0");
    }

    @Test
    void aSequenceIsDoneWholeOrNotAtAll() throws Exception {
        HttpResponse<String> moved = send("POST", "/moves", "{\"from\":2,\"to\":1,\"kilos\":5}");
        assertThat(moved.statusCode()).as(moved.body()).isEqualTo(201);
        assertThat(moved.body()).contains("\"label\":\"one\",\"kilos\":15.00");
        assertThat(header(moved, "Location")).isEqualTo("/api/stores/v1/moves/" + one("select id from crate_move"));
        assertThat(one("select was from crate_move")).isEqualTo("20.00");
        problem(
                send("POST", "/moves", "{\"from\":2,\"to\":1,\"kilos\":500}"),
                422,
                "It does not weigh that much.",
                "\"/kilos\"");
        problem(send("POST", "/moves", "{\"from\":99,\"to\":1,\"kilos\":5}"), 422, "nothing to take from", "\"/from\"");
        problem(send("POST", "/moves", "{\"from\":2,\"to\":99,\"kilos\":5}"), 404);
        TestDatabase.execute("waterways", "update crate set sealed = true where id = 3");
        problem(send("POST", "/moves", "{\"from\":3,\"to\":1,\"kilos\":5}"), 409, "Crate three is sealed.");
        assertThat(TestDatabase.column("select kilos from crate order by id"))
                .containsExactly("15.00", "15.00", "30.00", "40.00");
        assertThat(one("select count(*) from crate_move")).isEqualTo("1");
    }

    @Test
    void aProcedureHandsBackOutputsResultsStatusAndHeaders() throws Exception {
        HttpResponse<String> tally = send("POST", "/tallies", "{\"least\":20,\"running\":7}");
        assertThat(tally.statusCode()).as(tally.body()).isEqualTo(200);
        JsonNode body = RunningService.json(tally);
        assertThat(body.path("running").asInt()).isEqualTo(10);
        assertThat(body.path("counted").asInt()).isEqualTo(3);
        assertThat(tally.body())
                .contains(
                        "[{\"label\":\"two\",\"kilos\":20.00},{\"label\":\"three\",\"kilos\":30.00},{\"label\":\"four\",\"kilos\":40.00}]");
        assertThat(body.path("heaviest").toString()).isEqualTo("{\"label\":\"four\"}");
        assertThat(body.path("none").toString()).isEqualTo("[]");
        assertThat(header(tally, "X-Counted")).isEqualTo("3");
        assertThat(one("select count(*) from crate_move")).isEqualTo("1");
        problem(send("POST", "/tallies", "{\"least\":200,\"running\":7}"), 409, "Nothing weighs that much.");
        assertThat(one("select count(*) from crate_move")).as("rolled back").isEqualTo("1");
        HttpResponse<String> read = send("GET", "/tallies?least=1&running=1", "");
        assertThat(read.statusCode())
                .as("a get cannot write, whatever its procedure does")
                .isEqualTo(500);
        assertThat(one("select count(*) from crate_move")).isEqualTo("1");
        assertThat(send("POST", "/quiet", "").body()).isEqualTo("{\"changed\":4}");
    }

    @ParameterizedTest
    @CsvSource(delimiter = '|', textBlock = """
            {"label":"one"}             | 409 | A crate has this label already. | /label
            {"label":"x","shed":9}      | 422 | No shed has this number.        | /shed
            {"label":"x","kilos":-1}    | 422 | break a rule of the data        |
            {"label":"x","kilos":99999} | 400 | beyond what can be kept         |
            {"label":"aaaaaaaaaaaaaaa"} | 400 | longer than what can be kept    |
            {"label":"gold"}            | 418 | Gold goes to the office.        |
            {"label":"odd"}             | 422 | An odd crate.                   |
            {"kilos":"x"}               | 400 | 2 inputs need mending           | /label
            """)
    void conditionsOfTheDatabaseBecomeStatuses(String body, int status, String words, String pointer) throws Exception {
        HttpResponse<String> response = send("POST", "/crates", body);
        problem(response, status, words);
        if (pointer != null) {
            assertThat(response.body()).contains("\"pointer\":\"" + pointer + "\"");
        }
    }

    @Test
    void whatIsStillReferredToAndWhatIsForbiddenAreToldApart() throws Exception {
        TestDatabase.execute(
                "waterways",
                "create or replace table lid (crate_id int, foreign key (crate_id) references crate (id))",
                "insert into lid values (1)");
        problem(send("DELETE", "/crates/1", ""), 409, "Other data still refers to it.");
        TestDatabase.execute(
                "waterways",
                "drop table lid",
                "revoke delete on waterways.crate from " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        try {
            problem(send("DELETE", "/crates/1", ""), 500, "Something is wrong on this side");
            assertThat(service.desk("/desk/modules/stores/v1").body())
                    .contains("privilege-missing", "DELETE /crates/{id}");
        } finally {
            TestDatabase.execute(
                    "waterways", "grant delete on waterways.crate to " + DemoDatabase.SOURCE_USER + "@'127.0.0.1'");
        }
    }

    @Test
    void manyRowsComeTrueTogether() throws Exception {
        StringBuilder rows = new StringBuilder("[");
        for (int i = 0; i < 10_000; i++) {
            rows.append(i == 0 ? "" : ",").append("{\"label\":\"m").append(i).append("\",\"kilos\":1}");
        }
        HttpResponse<String> all = send("POST", "/crates/all", rows + "]");
        assertThat(all.statusCode()).as(all.body()).isEqualTo(201);
        assertThat(all.body()).isEqualTo("{\"changed\":10000}");
        TestDatabase.execute("waterways", "delete from crate where id > 4");
        String twice = "[{\"label\":\"a\"},{\"label\":\"b\",\"kilos\":1},{\"label\":\"a\"}]";
        problem(send("POST", "/crates/all", twice), 409, "Twice.", "\"/2/label\"");
        problem(send("POST", "/crates/all", "[{\"label\":\"a\"},{\"kilos\":1}]"), 400, "\"/1/label\"");
        problem(send("POST", "/crates/all", "[]"), 400, "holds no row");
        problem(send("POST", "/crates/all", "{\"label\":\"a\"}"), 400, "must be an array of rows");
        problem(send("POST", "/crates/all", ""), 400, "must be an array of rows");
        assertThat(one("select count(*) from crate")).isEqualTo("4");
        problem(send("PATCH", "/crates/each", "[{\"id\":1,\"kilos\":5},{\"id\":99,\"kilos\":5}]"), 404, "\"/1\"");
        assertThat(send("PATCH", "/crates/each", "[{\"id\":1,\"kilos\":5},{\"id\":2,\"label\":null}]")
                        .body())
                .isEqualTo("{\"changed\":2}");
        assertThat(TestDatabase.column("select concat(ifnull(label, '-'), kilos) from crate where id < 3 order by id"))
                .containsExactly("one5.00", "-20.00");
    }

    @Test
    void manyRowsEachHaveTheirResult() throws Exception {
        String rows = "[{\"label\":\"a\"},{\"label\":\"one\"},{\"label\":\"b\",\"shed\":9},{\"label\":\"c\"}]";
        HttpResponse<String> each = send("POST", "/crates/each", rows);
        assertThat(each.statusCode()).isEqualTo(200);
        JsonNode body = RunningService.json(each);
        assertThat(body.path("data").valueStream().map(row -> row.path("status").asInt()))
                .containsExactly(201, 409, 422, 201);
        assertThat(body.at("/data/0/key").asInt()).isPositive();
        assertThat(body.at("/data/2/problem/errors/0/pointer").asString()).isEqualTo("/2/shed");
        assertThat(body.path("changed").asInt()).isEqualTo(2);
        assertThat(body.path("refused").asInt()).isEqualTo(2);
        assertThat(one("select count(*) from crate where label in ('a', 'c')")).isEqualTo("2");
    }

    @Test
    void aStaleStateIsToldAndAFreshOneIsNotSentAgain() throws Exception {
        HttpResponse<String> read = send("GET", "/crates/1", "");
        String tag = header(read, "ETag");
        String modified = header(read, "Last-Modified");
        assertThat(tag).matches("\"1-[0-9a-f]+\"");
        HttpResponse<String> known = send("GET", "/crates/1", "", "If-None-Match", "\"x\", W/" + tag);
        assertThat(known.statusCode()).isEqualTo(304);
        assertThat(known.body()).isEmpty();
        assertThat(header(known, "ETag")).isEqualTo(tag);
        assertThat(send("GET", "/crates/1", "", "If-Modified-Since", modified).statusCode())
                .isEqualTo(304);
        problem(send("PATCH", "/crates/1", "{\"kilos\":1}"), 428, "If-Match");
        problem(send("PATCH", "/crates/1", "{\"kilos\":1}", "If-Match", "W/" + tag), 412);
        HttpResponse<String> changed = send("PATCH", "/crates/1", "{\"kilos\":1}", "If-Match", "\"x\", " + tag);
        assertThat(changed.statusCode()).isEqualTo(204);
        assertThat(header(changed, "ETag")).startsWith("\"2-");
        problem(send("PATCH", "/crates/1", "{\"kilos\":2}", "If-Match", tag), 412, "read it again");
        assertThat(send("PATCH", "/crates/1", "{\"kilos\":2}", "If-Match", header(changed, "ETag"))
                        .statusCode())
                .isEqualTo(204);
        problem(send("DELETE", "/crates/1", "", "If-Unmodified-Since", "Wed, 01 Jan 2020 00:00:00 GMT"), 412);
        problem(send("POST", "/crates", "{\"label\":\"x\"}", "If-Match", "*"), 412, "leave If-Match out");
        String shown = header(send("GET", "/crates/2/weight", ""), "ETag");
        assertThat(send("GET", "/crates/2/weight", "", "If-None-Match", shown).statusCode())
                .isEqualTo(304);
        assertThat(send("PUT", "/crates/2/weight", "{\"kilos\":21}", "If-Match", shown)
                        .statusCode())
                .isEqualTo(204);
        problem(send("PUT", "/crates/2/weight", "{\"kilos\":22}", "If-Match", shown), 412);
    }

    private static <T> List<T> atOnce(int count, Callable<T> task) throws Exception {
        try (ExecutorService threads = Executors.newVirtualThreadPerTaskExecutor()) {
            List<Future<T>> all = new ArrayList<>();
            for (int i = 0; i < count; i++) {
                all.add(threads.submit(task));
            }
            List<T> results = new ArrayList<>();
            for (Future<T> one : all) {
                results.add(one.get());
            }
            return results;
        }
    }

    @Test
    void ofTwoWritersOfOneStateExactlyOneWins() throws Exception {
        for (int round = 1; round <= 20; round++) {
            String tag = header(send("GET", "/crates/3", ""), "ETag");
            List<Integer> statuses = atOnce(
                    4,
                    () -> send("PATCH", "/crates/3", "{\"kilos\":3}", "If-Match", tag)
                            .statusCode());
            assertThat(statuses).as("round " + round).containsOnly(204, 412).containsOnlyOnce(204);
        }
    }

    @Test
    void deadlocksAreTriedAgain() throws Exception {
        TestDatabase.execute("waterways", "update crate set kilos = 1000");
        List<Integer> there = new ArrayList<>();
        Thread other = Thread.ofVirtual().start(() -> {
            try {
                there.addAll(atOnce(
                        20,
                        () -> send("POST", "/moves", "{\"from\":1,\"to\":2,\"kilos\":1}")
                                .statusCode()));
            } catch (Exception e) {
                throw new IllegalStateException(e);
            }
        });
        List<Integer> back = atOnce(
                20,
                () -> send("POST", "/moves", "{\"from\":2,\"to\":1,\"kilos\":1}")
                        .statusCode());
        other.join();
        assertThat(there).hasSize(20).isSubsetOf(201, 503).contains(201);
        assertThat(back).hasSize(20).isSubsetOf(201, 503).contains(201);
        assertThat(one("select sum(kilos) from crate where id in (1, 2)")).isEqualTo("2000.00");
        long made = java.util.stream.Stream.concat(there.stream(), back.stream())
                .filter(status -> status == 201)
                .count();
        assertThat(one("select count(*) from crate_move")).isEqualTo(String.valueOf(made));
    }

    @Test
    void aStatementThatTakesTooLongAndRowsThatOthersHold() throws Exception {
        problem(send("POST", "/slow", "{\"id\":1}"), 504);
        assertThat(one("select kilos from crate where id = 1")).isEqualTo("10.00");
        try (var connection = TestDatabase.server().connect("waterways");
                var statement = connection.createStatement()) {
            connection.setAutoCommit(false);
            statement.execute("update crate set kilos = 9 where id = 2");
            HttpResponse<String> busy = send("PUT", "/crates/2/weight", "{\"kilos\":1}");
            problem(busy, 503, "changing the same data");
            assertThat(header(busy, "Retry-After")).isNotEmpty();
            connection.rollback();
        }
        assertThat(send("PUT", "/crates/2/weight", "{\"kilos\":1}").statusCode())
                .isEqualTo(204);
    }

    private static void cut(String request) throws Exception {
        try (Socket socket = new Socket("127.0.0.1", service.port())) {
            socket.getOutputStream().write(request.getBytes(StandardCharsets.US_ASCII));
        }
    }

    @Test
    void aCallerWhoHangsUpLeavesAWholeChangeOrNone() throws Exception {
        String head =
                "POST /api/stores/v1/moves HTTP/1.1\r\nHost: x\r\nContent-Type: application/json\r\nContent-Length: ";
        String body = "{\"from\":2,\"to\":1,\"kilos\":1}";
        for (int i = 0; i < 10; i++) {
            cut(head + body.length() + "\r\n\r\n" + body);
            cut(head + (body.length() + 5) + "\r\n\r\n" + body);
        }
        // those who hung up are still being answered
        String seen = "";
        while (!seen.equals(one("select count(*) from crate_move"))) {
            seen = one("select count(*) from crate_move");
            Thread.sleep(500);
        }
        assertThat(send("POST", "/moves", body).statusCode()).isEqualTo(201);
        String made = one("select count(*) from crate_move");
        assertThat(Integer.parseInt(made)).isBetween(1, 11);
        assertThat(one("select sum(kilos) from crate where id in (1, 2)")).isEqualTo("30.00");
        assertThat(one("select 20 - kilos from crate where id = 2"))
                .isEqualTo(one("select count(*) from crate_move") + ".00");
    }
}
