package tidybridge.service.desk;

import com.fasterxml.jackson.annotation.JsonInclude;
import jakarta.servlet.http.HttpServletRequest;
import java.time.Instant;
import java.util.List;
import org.jspecify.annotations.Nullable;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.AccessRequest;
import tidybridge.service.OwnAddress;
import tidybridge.service.access.DeskNeeds;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.RequestChanges;
import tidybridge.service.access.Visitor;
import tidybridge.service.notice.Notices;
import tidybridge.service.run.Refusal;

/** What people of client teams ask for, for whoever answers. */
@RestController
@RequestMapping("/desk/requests")
class RequestsController {

    private final RequestChanges requests;
    private final LiveAccess access;
    private final Notices notices;

    RequestsController(RequestChanges requests, LiveAccess access, Notices notices) {
        this.requests = requests;
        this.access = access;
        this.notices = notices;
    }

    @JsonInclude(JsonInclude.Include.NON_NULL)
    record RequestView(
            long id,
            String kind,
            @Nullable String team,
            String title,
            @Nullable String client,
            @Nullable String module,
            List<String> privileges,
            String reason,
            String askedBy,
            String contact,
            String address,
            Instant askedAt,
            String state,
            @Nullable String decidedBy,
            @Nullable Instant decidedAt,
            @Nullable String words,
            @Nullable Instant endsAt,
            @Nullable String proposedName) {

        static RequestView of(AccessRequest request) {
            boolean forTeam = request.kind() == AccessRequest.Kind.TEAM;
            return new RequestView(
                    request.id(),
                    request.kind().label(),
                    request.team(),
                    request.title(),
                    request.client(),
                    request.module(),
                    request.privileges(),
                    request.reason(),
                    request.askedBy(),
                    request.contact(),
                    request.address(),
                    request.askedAt(),
                    request.state().label(),
                    request.decidedBy(),
                    request.decidedAt(),
                    request.words(),
                    request.endsAt(),
                    forTeam && request.state() == AccessRequest.State.WAITING
                            ? RequestChanges.nameFor(request.title())
                            : null);
        }
    }

    record RequestViews(List<RequestView> requests, long waiting) {}

    /**
     * An answer.
     *
     * @param answer {@code allow} or {@code refuse}
     * @param privileges those of the request that are given; all unless said
     * @param words for whoever asked; needed to refuse
     * @param endsAt until when it is allowed; always unless said
     * @param team the name of the team, for a request that is for one
     */
    record AnswerRequest(
            @Nullable String answer,
            @Nullable List<String> privileges,
            @Nullable String words,
            @Nullable Instant endsAt,
            @Nullable String team) {}

    /**
     * What became of it.
     *
     * @param link with which the first of a new team's people joins it, shown this once; absent otherwise
     * @param mailed whether whoever asked is told by mail
     */
    @JsonInclude(JsonInclude.Include.NON_NULL)
    record AnsweredView(RequestView request, @Nullable String link, boolean mailed) {}

    /** Those that whoever asks may answer: first those that wait. */
    @GetMapping
    @DeskNeeds(ServicePrivilege.ANSWER_REQUESTS)
    RequestViews all(HttpServletRequest http) {
        List<RequestView> all = requests.answerable(Visitor.of(http)).stream()
                .map(RequestView::of)
                .toList();
        return new RequestViews(
                all,
                all.stream()
                        .filter(request -> request.state().equals(AccessRequest.State.WAITING.label()))
                        .count());
    }

    @GetMapping("/{id}")
    @DeskNeeds(ServicePrivilege.ANSWER_REQUESTS)
    RequestView one(@PathVariable("id") long id, HttpServletRequest http) throws Refusal {
        return RequestView.of(requests.find(id, Visitor.of(http)));
    }

    @PutMapping("/{id}/answer")
    @DeskNeeds(ServicePrivilege.ANSWER_REQUESTS)
    AnsweredView answer(@PathVariable("id") long id, @RequestBody AnswerRequest answer, HttpServletRequest http)
            throws Refusal {
        Visitor by = Visitor.of(http);
        AccessRequest request = requests.find(id, by);
        String words = answer.words() == null || answer.words().isBlank()
                ? null
                : answer.words().strip();
        String link = null;
        switch (answer.answer() == null ? "" : answer.answer()) {
            case "allow" -> {
                if (request.kind() == AccessRequest.Kind.TEAM) {
                    String code = requests.allowTeam(request, answer.team() == null ? "" : answer.team(), words, by);
                    link = TeamsController.link(code, http);
                } else {
                    List<String> privileges =
                            answer.privileges() == null ? null : DeskRefusal.texts("privileges", answer.privileges());
                    requests.allow(request, privileges, words, answer.endsAt(), by);
                }
            }
            case "refuse" -> requests.refuse(request, words == null ? "" : words, by);
            default -> throw new Refusal(ProblemKind.BAD_INPUT, "'answer' is 'allow' or 'refuse'.");
        }
        AccessRequest answered = requests.find(id, by);
        String team = answered.team();
        notices.answered(answered, team == null ? null : access.now().team(team), link, OwnAddress.of(http));
        return new AnsweredView(RequestView.of(answered), link, notices.canMail());
    }
}
