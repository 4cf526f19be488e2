package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.util.LinkedHashMap;
import java.util.List;
import java.util.Map;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** A module that asks for a second person is published with their approval, and not without. */
class ReviewsTest {

    private static final String PASSWORD = "seven herons on a lock beam";

    private static RunningService service;
    private static Callers callers;
    private static Person author;
    private static Person second;

    @TempDir
    Path folder;

    /** Somebody who is signed in on a command line. */
    private record Person(String name, String token) {

        static Person with(String... roles) throws Exception {
            String name = callers.person(PASSWORD, roles);
            return new Person(name, callers.token(name, PASSWORD));
        }

        HttpResponse<String> send(String method, String path, Map<String, ?> body) throws Exception {
            return service.send(
                    method,
                    path,
                    body.isEmpty() ? "" : JsonMapper.shared().writeValueAsString(body),
                    "Authorization",
                    "Bearer " + token);
        }

        HttpResponse<String> ask(Berths berths) throws Exception {
            return send("POST", "/desk/reviews", berths.request());
        }

        HttpResponse<String> publish(Berths berths) throws Exception {
            return send("POST", "/desk/releases", berths.request());
        }

        HttpResponse<String> decide(JsonNode review, String decision, String words) throws Exception {
            return send(
                    "PUT",
                    "/desk/reviews/" + review.path("id").asLong() + "/decision",
                    Map.of("decision", decision, "hash", review.path("hash").asString(), "words", words));
        }
    }

    /** A text as a test varies it. */
    private record Berths(String name, String version, String columns, boolean asks, Map<String, String> words) {

        static Berths first(String name) {
            return new Berths(name, "1.0.0", "id, berth_no, width_m", true, Map.of());
        }

        Berths next(String number, String others) {
            return new Berths(name, number, others, asks, Map.of());
        }

        Berths unasking() {
            return new Berths(name, version, columns, false, words);
        }

        Berths saying(String key, String text) {
            return new Berths(name, version, columns, asks, Map.of(key, text));
        }

        Map<String, String> files() {
            return Map.of("berths.sql", "select " + columns + " from berth", "module.yaml", """
                    module: %s
                    version: %s
                    title: Berths
                    source: waterways
                    review: %s
                    public: true
                    accept: { open-to-everybody: the test calls it without a key }
                    routes:
                      /berths:
                        get: { about: Berths, sql: berths.sql, answer: rows, order: [id] }
                    """.formatted(
                            name, version, asks));
        }

        Map<String, ?> request() {
            Map<String, Object> request = new LinkedHashMap<>(words);
            request.put("modules", List.of(Map.of("folder", "modules/" + name, "files", files())));
            return request;
        }
    }

    @BeforeAll
    static void start() throws Exception {
        service = SharedService.get();
        callers = new Callers(service);
        author = Person.with("integration-developer", "reviewer");
        second = Person.with("reviewer");
    }

    private static JsonNode ok(HttpResponse<String> response) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(200);
        return RunningService.json(response);
    }

    private static String refused(HttpResponse<String> response, int status) {
        assertThat(response.statusCode()).as(response.body()).isEqualTo(status);
        return RunningService.json(response).path("detail").asString();
    }

    private static JsonNode asked(Person by, Berths berths) throws Exception {
        return ok(by.ask(berths)).path("modules").path(0).path("review");
    }

    /** Publishes the first version of a module, approved. */
    private static Berths published() throws Exception {
        Berths first = Berths.first(Callers.fresh("reviewed"));
        ok(second.decide(asked(author, first), "approve", ""));
        ok(author.publish(first));
        return first;
    }

    @Test
    void withoutAnApprovalNothingIsPublished() throws Exception {
        Berths berths = Berths.first(Callers.fresh("reviewed"));
        HttpResponse<String> refused = author.publish(berths);
        assertThat(refused(refused, 409))
                .isEqualTo(
                        "Nothing was changed. " + berths.name()
                                + " 1.0.0 needs the approval of a second person. Ask for it: './tidy publish --ask-review', or POST /desk/reviews.");
        assertThat(RunningService.json(refused).path("code").asString()).isEqualTo("review-needed");
        assertThat(RunningService.json(refused)
                        .path("modules")
                        .path(0)
                        .path("code")
                        .asString())
                .isEqualTo("not-approved");
        // nobody is above it
        assertThat(refused(service.post("/desk/releases", berths.request()), 409))
                .contains("a second person");

        JsonNode review = asked(author, berths.saying("note", "The first berths"));
        assertThat(review.path("state").asString()).isEqualTo("open");
        assertThat(asked(author, berths.saying("note", "The first berths")).path("id"))
                .as("asked again, it is the same")
                .isEqualTo(review.path("id"));
        assertThat(refused(author.publish(berths), 409))
                .contains("waits for somebody other than " + author.name() + ": './tidy review approve "
                        + review.path("id").asLong() + "'");
        assertThat(service.get("/api/" + berths.name() + "/v1/berths").statusCode())
                .isEqualTo(404);
    }

    @Test
    void onlyAnotherPersonDecidesAndOnTheTextTheyRead() throws Exception {
        Berths berths = Berths.first(Callers.fresh("reviewed"));
        JsonNode review = asked(author, berths);
        String decision = "/desk/reviews/" + review.path("id").asLong() + "/decision";
        Map<String, String> approve =
                Map.of("decision", "approve", "hash", review.path("hash").asString());

        assertThat(refused(author.decide(review, "approve", ""), 403)).contains("You asked for this review yourself");
        assertThat(refused(callers.desk("PUT", decision, approve), 403)).contains("Only a person decides");
        String key = callers.holding("tidy.read", "tidy.publish");
        assertThat(refused(
                        service.send(
                                "PUT",
                                decision,
                                JsonMapper.shared().writeValueAsString(approve),
                                "Authorization",
                                "Bearer " + key),
                        403))
                .contains("Only a person decides");
        assertThat(Person.with("integration-developer")
                        .decide(review, "approve", "")
                        .statusCode())
                .isEqualTo(403);
        assertThat(refused(second.send("PUT", decision, Map.of("decision", "approve", "hash", "0")), 400))
                .contains("another text");
        assertThat(refused(second.send("PUT", decision, Map.of("decision", "maybe", "hash", "0")), 400))
                .contains("'approve' or 'decline'");
        assertThat(refused(second.decide(review, "decline", " "), 400)).contains("why");

        JsonNode detail =
                ok(second.send("GET", "/desk/reviews/" + review.path("id").asLong(), Map.of()));
        assertThat(detail.path("mayDecide").asBoolean()).isTrue();
        assertThat(detail.path("text").path("files").path("berths.sql").asString())
                .contains("width_m");
        assertThat(ok(author.send("GET", "/desk/reviews/" + review.path("id").asLong(), Map.of()))
                        .path("mayDecide")
                        .asBoolean())
                .isFalse();

        ok(second.decide(review, "approve", "Tried it"));
        assertThat(refused(second.decide(review, "approve", ""), 409)).contains("is approved already");
        // another text is not what was approved
        assertThat(refused(author.publish(berths.next("1.0.0", "id, berth_no")), 409))
                .contains("needs the approval");
        ok(author.publish(berths));
        JsonNode after = ok(second.send(
                        "GET", "/desk/reviews/" + review.path("id").asLong(), Map.of()))
                .path("review");
        assertThat(after.path("state").asString()).isEqualTo("published");
        assertThat(after.path("decidedBy").asString()).isEqualTo(second.name());
        assertThat(after.path("words").asString()).isEqualTo("Tried it");
        assertThat(RunningService.json(service.desk("/desk/audit?limit=50"))
                        .path("entries")
                        .valueStream()
                        .filter(entry -> entry.path("subject").asString().equals(berths.name() + "/v1"))
                        .map(entry -> entry.path("action").asString() + " "
                                + entry.path("who").asString()))
                .containsExactly("publish " + author.name(), "approve " + second.name(), "ask-review " + author.name());
    }

    /** What was seen is what callers of the live release meet; when that changes, it was not seen. */
    @Test
    void anApprovalIsOfWhatIsLive() throws Exception {
        Berths berths = published();
        Berths more = berths.next("1.1.0", "id, berth_no, width_m, length_m");
        JsonNode review = asked(author, more);
        ok(second.decide(review, "approve", ""));
        Berths faster = berths.next("1.0.1", "berth.id, berth_no, width_m");
        ok(second.decide(asked(author, faster), "approve", ""));
        ok(author.publish(faster));

        assertThat(refused(author.publish(more), 409)).contains("is of what is not live any more");
        assertThat(ok(second.send("GET", "/desk/reviews/" + review.path("id").asLong(), Map.of()))
                        .path("standing")
                        .asBoolean())
                .isFalse();
        JsonNode again = asked(author, more);
        assertThat(again.path("id").asLong()).isGreaterThan(review.path("id").asLong());
        assertThat(again.path("comparedWith").asString()).isEqualTo("1.0.1");
        ok(second.decide(again, "approve", ""));
        // the text of the review is published without being sent again
        JsonNode done = ok(author.send(
                "POST", "/desk/releases", Map.of("review", again.path("id").asLong())));
        assertThat(done.path("modules").path(0).path("version").asString()).isEqualTo("1.1.0");
        // and taking it back needs nobody
        assertThat(ok(author.send(
                                "PUT",
                                "/desk/modules/" + berths.name() + "/v1/release",
                                Map.of("version", "1.0.1", "reason", "too slow")))
                        .path("version")
                        .asString())
                .isEqualTo("1.0.1");
    }

    @Test
    void aTextThatDoesNotAskAnyMoreNeedsOneMoreApproval() throws Exception {
        Berths berths = published();
        Berths free = berths.next("1.0.1", berths.columns()).unasking();
        assertThat(refused(author.publish(free), 409)).contains("a second person");
        // nor does another major version get around it
        assertThat(refused(author.publish(berths.next("2.0.0", "id").unasking()), 409))
                .contains("a second person");
        ok(second.decide(asked(author, free), "approve", ""));
        ok(author.publish(free));
        ok(author.publish(berths.next("1.0.2", "berth.id, berth_no, width_m").unasking()));
    }

    @Test
    void whatBreaksCallersIsApprovedWithItsReason() throws Exception {
        Berths berths = published();
        Berths narrow = berths.next("1.1.0", "id, berth_no");
        assertThat(refused(author.ask(narrow), 409)).contains("breaks what 1.0.0 promises");
        JsonNode review = asked(author, narrow.saying("breaking", "Widths were wrong"));
        JsonNode detail =
                ok(second.send("GET", "/desk/reviews/" + review.path("id").asLong(), Map.of()));
        assertThat(detail.path("differences").path(0).path("words").asString())
                .isEqualTo("The field 'width_m' is gone.");
        assertThat(detail.path("files").path(0).path("file").asString()).isEqualTo("berths.sql");
        ok(second.decide(review, "approve", "Told everybody"));
        // whoever publishes need not repeat what was approved
        ok(second.publish(narrow));
        JsonNode newest = RunningService.json(service.desk("/desk/releases/" + berths.name()))
                .path("releases")
                .path(0);
        assertThat(newest.path("breaking").asString()).isEqualTo("Widths were wrong");
    }

    @Test
    void whatIsDeclinedOrTakenBackIsNotPublished() throws Exception {
        Berths berths = Berths.first(Callers.fresh("reviewed"));
        JsonNode review = asked(author, berths);
        ok(second.decide(review, "decline", "The index is missing"));
        assertThat(refused(author.publish(berths), 409))
                .contains("was declined by " + second.name() + ": The index is missing");
        JsonNode again = asked(author, berths);
        ok(second.decide(again, "approve", ""));
        String address = "/desk/reviews/" + again.path("id").asLong();
        assertThat(Person.with("integration-developer")
                        .send("DELETE", address, Map.of())
                        .statusCode())
                .isEqualTo(403);
        assertThat(author.send("DELETE", address, Map.of()).statusCode()).isEqualTo(204);
        assertThat(refused(author.publish(berths), 409)).contains("counts no more");
        assertThat(refused(author.send("DELETE", address, Map.of()), 409)).contains("is withdrawn already");
        assertThat(ok(second.send("GET", "/desk/reviews", Map.of()))
                        .path("reviews")
                        .valueStream()
                        .filter(one -> one.path("name").asString().equals(berths.name()))
                        .map(one -> one.path("state").asString()))
                .containsExactly("withdrawn", "declined");
    }

    /** The same on the command line, as two people go. */
    @Test
    void twoPeoplePublishOnTheCommandLine() throws Exception {
        Berths berths = Berths.first(Callers.fresh("reviewed"));
        Path module = Files.createDirectories(folder.resolve("work/modules/" + berths.name()));
        Files.writeString(
                folder.resolve("work/workspace.yaml"), "workspace: Test\nsources:\n  waterways: { kind: mariadb }\n");
        for (Map.Entry<String, String> file : berths.files().entrySet()) {
            Files.writeString(module.resolve(file.getKey()), file.getValue());
        }
        Launched administrator = new Launched(service);
        String at = folder.resolve("work").toString();
        Ended refused = administrator.tidy("publish", "--folder", at);
        assertThat(refused.code()).isEqualTo(1);
        assertThat(refused.err()).contains("needs the approval of a second person");
        Ended asked = administrator.tidy("publish", "--folder", at, "--ask-review", "--note", "The first berths");
        assertThat(asked.out()).startsWith("open          " + berths.name() + " 1.0.0, review ");
        String id = asked.out().replaceFirst("(?s).*review (\\d+):.*", "$1");
        assertThat(administrator.tidy("review", "approve", id).err()).contains("Only a person decides");

        Launched other = new Launched(service, folder.resolve("sign-ins.json"));
        Ended signedIn =
                other.tidyReading(second.name() + "\n" + PASSWORD + "\n", "sign-in", "--service", service.address());
        assertThat(signedIn.code()).as(signedIn.err()).isZero();
        Ended shown = other.tidy("review", "show", id);
        assertThat(shown.out())
                .startsWith(berths.name() + " 1.0.0  review " + id + ", open, the first of its name\n")
                .contains("Note: The first berths", "+ select id, berth_no, width_m from berth");
        assertThat(other.tidy("review", "approve", id, "--words", "Read it").out())
                .isEqualTo(berths.name() + " 1.0.0 is approved; './tidy review publish " + id + "' publishes it.\n");
        assertThat(other.tidy("review", "list").out()).contains(second.name(), "Read it");
        assertThat(administrator.tidy("publish", "--folder", at).out())
                .isEqualTo("published    " + berths.name() + "/v1 1.0.0 at /api/" + berths.name() + "/v1\n");
    }
}
