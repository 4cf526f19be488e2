package tidybridge.service.desk;

import jakarta.servlet.http.HttpServletRequest;
import org.jspecify.annotations.Nullable;
import org.springframework.http.HttpStatus;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.PutMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.ResponseStatus;
import org.springframework.web.bind.annotation.RestController;
import tidybridge.core.access.ServicePrivilege;
import tidybridge.core.bind.Caller;
import tidybridge.core.problem.ProblemKind;
import tidybridge.records.Person;
import tidybridge.service.access.DeskOpen;
import tidybridge.service.access.LiveAccess;
import tidybridge.service.access.RequestChanges;
import tidybridge.service.access.SignIns;
import tidybridge.service.access.Visitor;
import tidybridge.service.desk.AccessViews.AccountView;
import tidybridge.service.run.Refusal;

/** Somebody's own account. */
@RestController
@RequestMapping("/desk/account")
class AccountController {

    private final LiveAccess access;
    private final SignIns signIns;
    private final RequestChanges requests;

    AccountController(LiveAccess access, SignIns signIns, RequestChanges requests) {
        this.requests = requests;
        this.access = access;
        this.signIns = signIns;
    }

    record PasswordRequest(
            @Nullable String password, @Nullable String chosen) {}

    /**
     * A second factor.
     *
     * @param secret null to sign in without one again
     */
    record FactorRequest(
            @Nullable String password,
            @Nullable String secret,
            @Nullable String code) {}

    @GetMapping
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    AccountView account(HttpServletRequest http) {
        Visitor visitor = Visitor.of(http);
        Caller caller = visitor.caller();
        String name = visitor.person();
        Person person = name == null ? null : access.now().person(name);
        return new AccountView(
                visitor.who(),
                person == null ? null : person.fullName(),
                person != null ? "person" : caller.client() != null ? "client" : "administrator",
                caller.roles(),
                caller.privileges().written(),
                person != null && person.factorSecret() != null,
                !access.now().people().isEmpty(),
                visitor.holds(ServicePrivilege.ANSWER_REQUESTS) ? requests.waiting(visitor) : null);
    }

    @PutMapping("/password")
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void password(@RequestBody PasswordRequest request, HttpServletRequest http) throws Refusal {
        signIns.changePassword(
                Visitor.of(http), given("password", request.password()), given("chosen", request.chosen()));
    }

    @PostMapping("/factor")
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    SignIns.Factor newFactor(HttpServletRequest http) throws Refusal {
        return signIns.newFactor(Visitor.of(http));
    }

    @PutMapping("/factor")
    @DeskOpen(DeskOpen.To.SIGNED_IN)
    @ResponseStatus(HttpStatus.NO_CONTENT)
    void factor(@RequestBody FactorRequest request, HttpServletRequest http) throws Refusal {
        String password = given("password", request.password());
        if (request.secret() == null) {
            signIns.dropFactor(Visitor.of(http), password);
        } else {
            signIns.useFactor(Visitor.of(http), password, request.secret(), given("code", request.code()));
        }
    }

    private static String given(String field, @Nullable String text) throws Refusal {
        if (text == null || text.isEmpty()) {
            throw new Refusal(ProblemKind.BAD_INPUT, "'" + field + "' is missing.");
        }
        return text;
    }
}
