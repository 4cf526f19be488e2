package tidybridge.service;

import static org.assertj.core.api.Assertions.assertThat;

import java.net.http.HttpResponse;
import java.nio.file.Files;
import java.nio.file.Path;
import java.nio.file.attribute.PosixFilePermissions;
import java.util.Map;
import org.junit.jupiter.api.BeforeEach;
import org.junit.jupiter.api.Test;
import org.junit.jupiter.api.extension.RegisterExtension;
import org.junit.jupiter.api.io.TempDir;
import tidybridge.service.Launched.Ended;
import tools.jackson.databind.JsonNode;
import tools.jackson.databind.json.JsonMapper;

/** The commands that give access, and signing in on the command line. */
class AccessCommandsTest {

    private static final String PASSWORD = "seven herons on a lock beam";

    @RegisterExtension
    static final Situation DOORS = new Situation("doors");

    @TempDir
    Path folder;

    private Path signIns;
    private Launched launched;

    @BeforeEach
    void prepare() {
        signIns = folder.resolve("kept").resolve("sign-ins.json");
        launched = new Launched(DOORS.service(), signIns);
    }

    private String done(String... words) throws Exception {
        Ended ended = launched.tidy(words);
        assertThat(ended.code()).as(ended.out() + ended.err()).isZero();
        return ended.out();
    }

    private String refused(int code, String... words) throws Exception {
        Ended ended = launched.tidy(words);
        assertThat(ended.code()).as(ended.out() + ended.err()).isEqualTo(code);
        assertThat(ended.err()).startsWith("tidy: ").hasLineCount(1);
        return ended.err();
    }

    @Test
    void aRoleIsMadeChangedListedAndRemoved() throws Exception {
        String name = Callers.fresh("clerk");
        assertThat(done("role", "set", name, "--holds", "doors.read", "--holds", "tolls.*", "--about", "At the quay"))
                .isEqualTo("The role " + name + " holds doors.read, tolls.*.\n");
        assertThat(done("role", "set", name, "--holds", "doors.write")).contains("holds doors.write.");
        assertThat(done("role", "list")).contains("administrator", name, "At the quay", "here");
        assertThat(done("role", "list", "--json")).contains("\"from\" : \"service\"");
        assertThat(refused(1, "role", "set", "operator", "--holds", "a.b")).contains("every service has");
        assertThat(refused(1, "role", "set", name, "--holds", "*")).contains("moorings.*");
        done("role", "remove", name);
        assertThat(refused(1, "role", "remove", name)).contains("There is no role");
    }

    @Test
    void anApplicationIsMadeAndCallsWithItsKey() throws Exception {
        String role = new Callers(DOORS.service()).role("doors.read");
        String name = Callers.fresh("quay-display");
        assertThat(refused(1, "client", "set", name, "--owner", "Office")).contains("'contact'");
        assertThat(done("client", "set", name, "--owner", "Office", "--contact", "a@marrowby.example", "--give", role))
                .contains("has the roles: " + role, "from everywhere", "add-credential " + name);
        Ended made = launched.tidy("client", "add-credential", name, "spring", "--ends", "2099-09-30");
        assertThat(made.out())
                .as("the key alone, so that it can go into a file")
                .matches("tbk_[A-Za-z0-9_-]{60}\\n");
        assertThat(made.err()).contains("shown this once");
        String key = made.out().strip();
        assertThat(done("call", "GET", "doors/v1/me", "--header", "Authorization=Bearer " + key))
                .contains(name);
        assertThat(refused(
                        1,
                        "call",
                        "POST",
                        "doors/v1/either",
                        "--body",
                        "{\"what\":\"a\"}",
                        "--header",
                        "Authorization=Bearer " + key))
                .contains("403", "'doors.write'")
                .doesNotContain(key);
        assertThat(done("client", "list")).contains(name, "Office, a@marrowby.example", "spring", "2099-10-01 00:00");
        assertThat(done("client", "set", name, "--from", "10.0.0.0/8")).contains("from 10.0.0.0/8.");
        assertThat(refused(1, "call", "GET", "doors/v1/look", "--header", "Authorization=Bearer " + key))
                .contains("may not call from 127.0.0.1");
        assertThat(done("client", "set", name, "--from", "everywhere", "--off")).contains("from everywhere");
        assertThat(refused(1, "call", "GET", "doors/v1/look", "--header", "Authorization=Bearer " + key))
                .contains("401");
        done("client", "set", name, "--on");
        done("client", "revoke", name, "spring");
        assertThat(refused(1, "client", "revoke", name, "spring")).contains("no credential 'spring'");
        assertThat(done("client", "remove", name)).contains("removed");
    }

    @Test
    void aPersonSignsInOnceAndIsWhoTheyAreFromThenOn() throws Exception {
        String name = Callers.fresh("mara");
        assertThat(done("person", "set", name, "--full-name", "Mara Holt", "--give", "operator"))
                .contains("has the roles: operator", "person link " + name);
        String link = done("person", "link", name).strip();
        new Callers(DOORS.service())
                .signIn(java.util.Map.of("code", link.replaceFirst(".*#", ""), "password", PASSWORD));
        Ended wrong = launched.tidyReading("not the password\n", "sign-in", name);
        assertThat(wrong.code()).isEqualTo(1);
        assertThat(wrong.err()).contains("Name or password is wrong.").doesNotContain("not the password");
        assertThat(Files.exists(signIns)).isFalse();
        Ended in = launched.asProcess().tidyReading(PASSWORD + "\n", "sign-in", name, "--at", "harbour");
        assertThat(in.code()).as(in.err()).isZero();
        assertThat(in.out()).contains("Signed in at " + DOORS.service().address() + " as " + name, "--at harbour");
        assertThat(PosixFilePermissions.toString(Files.getPosixFilePermissions(signIns)))
                .isEqualTo("rw-------");
        assertThat(Files.readString(signIns)).doesNotContain(PASSWORD);
        assertThat(done("sign-in", "--list")).contains("harbour", name);
        assertThat(done("source", "list", "--at", "harbour")).contains("waterways");
        assertThat(refused(1, "person", "list", "--at", "harbour")).contains("403", "'tidy.give-access'");
        assertThat(refused(1, "person", "list")).as("the address is the same").contains("'tidy.give-access'");
        assertThat(done("person", "list", "--home", DOORS.service().home().toString()))
                .as("whoever names the home is the administrator")
                .contains(name, "password");
        assertThat(refused(1, "modules", "--at", "harbor")).contains("Did you mean 'harbour'?");
        done(
                "person",
                "set",
                name,
                "--take",
                "operator",
                "--give",
                "reviewer",
                "--home",
                DOORS.service().home().toString());
        assertThat(refused(1, "source", "reload", "--at", "harbour")).contains("'tidy.operate'");
        assertThat(done("sign-out", "--at", "harbour")).contains("Signed out");
        assertThat(refused(1, "modules", "--at", "harbour")).contains("not signed in");
        assertThat(done("sign-in", "--list")).contains("nowhere");
        assertThat(refused(1, "sign-out")).contains("not signed in");
    }

    @Test
    void aPasswordNeverTravelsUnencryptedToAnotherMachine() throws Exception {
        Ended ended =
                launched.tidyReading(PASSWORD + "\n", "sign-in", "mara", "--service", "http://bridge.marrowby.example");
        assertThat(ended.code()).isEqualTo(1);
        assertThat(ended.err()).contains("unencrypted", "https");
    }

    @Test
    void whatIsKeptMustBeReadable() throws Exception {
        Files.createDirectories(signIns.getParent());
        Files.writeString(signIns, "{ broken");
        assertThat(refused(1, "modules")).contains("cannot be read", "sign in again");
    }

    @Test
    void modulesTellWhatTheirOperationsNeed() throws Exception {
        JsonNode modules = JsonMapper.shared().readTree(done("modules", "--json"));
        JsonNode doors = modules.path("modules")
                .valueStream()
                .filter(module -> module.path("name").asString().equals("doors"))
                .findFirst()
                .orElseThrow();
        assertThat(doors.path("access").asString()).isEqualTo("partly-open");
        assertThat(doors.path("needs").toString()).contains("doors.audit", "doors.write");
        assertThat(done("modules")).contains("doors.read or doors.audit");
    }

    @Test
    void aTeamIsInvitedAndItsRequestsAreAnswered() throws Exception {
        String team = Callers.fresh("dockers");
        assertThat(refused(1, "team", "invite", team)).contains("There is no team");
        assertThat(refused(1, "team", "invite", team, "--title", "Dockers")).contains("mail address");
        String link = done("team", "invite", team, "--title", "Dockers", "--contact", "d@marrowby.example");
        Member member = Member.joining(DOORS.service(), link.strip(), Callers.fresh("docker"));
        String application = Callers.fresh("dock-board");
        member.application(application);
        assertThat(done("team", "list")).contains(team, "Dockers", "d@marrowby.example", application);
        HttpResponse<String> published = DOORS.service().publish("""
                module: dockgates
                version: 1.0.0
                title: Gates
                source: waterways
                listed: everybody
                needs: gates.read
                routes:
                  /gates: { get: { sql: gates.sql, answer: value } }
                """, Map.of("gates.sql", "select 1 as gates"));
        assertThat(published.statusCode()).as(published.body()).isEqualTo(200);
        String first = asked(member, application);
        String second = asked(member, application);
        assertThat(done("request", "show", first)).contains("gates.read of dockgates/v1", "To open gates", application);
        assertThat(refused(1, "request", "allow", first, "--only", "gates.write"))
                .contains("Only what was asked for can be given: gates.read");
        assertThat(refused(1, "request", "allow", first, "--ends", "2001-01-01"))
                .contains("in the future");
        assertThat(done("request", "allow", first, "--ends", "2098-12-31", "--words", "Until then"))
                .isEqualTo(application + " may gates.read until 2099-01-01 00:00 UTC.\n"
                        + "No mail server is set, so tell d@marrowby.example.\n");
        assertThat(refused(1, "request", "allow", first)).contains("answered or withdrawn meanwhile");
        assertThat(done("request", "refuse", second, "--words", "Once is enough"))
                .contains("is refused");
        assertThat(done("request", "list")).contains("allowed until 2099-01-01 00:00", "refused");
        assertThat(done("client", "list")).contains("gates.read (until 2099-01-01 00:00)");
        assertThat(done("may", application, "dockgates/v1", "GET", "/gates")).contains("given to it on request");
        done("client", "take-back", application, "gates.read");
        assertThat(refused(1, "client", "take-back", application, "gates.read")).contains("There is no privilege");
        assertThat(refused(1, "request", "show", "999999")).contains("No request of that number");
        assertThat(done("notices")).contains("Nothing was told");
        done("retire", "dockgates/v1", "--because", "a test");
        done("team", "remove", team);
        assertThat(done("client", "list")).doesNotContain(application);
    }

    /** The number of a request for the application. */
    private String asked(Member member, String application) throws Exception {
        HttpResponse<String> asked = member.post(
                "/team/ask",
                "module",
                "dockgates/v1",
                "application",
                application,
                "privilege",
                "gates.read",
                "reason",
                "To open gates");
        assertThat(asked.statusCode()).as(asked.body()).isEqualTo(303);
        return JsonMapper.shared()
                .readTree(done("request", "list", "--json"))
                .path("requests")
                .valueStream()
                .filter(request -> request.path("client").asString("").equals(application)
                        && request.path("state").asString().equals("waiting"))
                .map(request -> request.path("id").asString())
                .reduce((one, next) -> next)
                .orElseThrow();
    }
}
