package app.euthyna.server.people;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.DecimalMark;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Right;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import jakarta.validation.Valid;
import jakarta.validation.constraints.NotBlank;
import jakarta.validation.constraints.Size;
import java.time.LocalDate;
import java.util.List;
import java.util.stream.Collectors;
import org.springframework.security.core.Authentication;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.security.web.context.SecurityContextRepository;
import org.springframework.web.bind.annotation.DeleteMapping;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PostMapping;
import org.springframework.web.bind.annotation.RequestBody;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Signing in and out, and who one is. */
@RestController
@RequestMapping("/api")
class SessionController {

    private final SecurityContextRepository sessions;
    private final People people;
    private final SignIns signIns;
    private final Deputies deputies;
    private final Company company;
    private final DecimalMark.Rule rules;

    SessionController(
            SecurityContextRepository sessions,
            People people,
            SignIns signIns,
            Deputies deputies,
            Company company,
            DecimalMark.Rule rules) {
        this.rules = rules;
        this.sessions = sessions;
        this.people = people;
        this.signIns = signIns;
        this.deputies = deputies;
        this.company = company;
    }

    record SignIn(
            @NotBlank @Size(max = 200) String username,
            @NotBlank @Size(max = 500) String password) {}

    /**
     * Who is signed in; all but the company empty when nobody is.
     *
     * @param standsInFor roles of those who are away
     * @param may what is not refused to whoever is signed in for who they are
     * @param reads what they read
     */
    record SessionView(
            String username,
            String displayName,
            String role,
            List<String> standsInFor,
            List<Right> may,
            List<Reading.Kind> reads,
            String company,
            String currency,
            DecimalMark decimalMark,
            LocalDate today,
            boolean demo) {}

    record HealthView(boolean ready) {}

    @GetMapping("/health")
    HealthView health() {
        if (people.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound("user", "yet; the company is still being set up"));
        }
        return new HealthView(true);
    }

    @GetMapping("/session")
    SessionView session(Authentication signedIn) {
        return view(signedIn);
    }

    @PostMapping("/session")
    SessionView signIn(@Valid @RequestBody SignIn request, HttpServletRequest http, HttpServletResponse response) {
        var address = http.getRemoteAddr();
        var signedIn = signIns.authenticated(request.username(), request.password(), address);
        // a new session, not a new name for the old: its time begins now
        var before = http.getSession(false);
        if (before != null) {
            before.invalidate();
        }
        var context = SecurityContextHolder.createEmptyContext();
        context.setAuthentication(signedIn);
        SecurityContextHolder.setContext(context);
        sessions.saveContext(context, http, response);
        return view(signedIn);
    }

    @DeleteMapping("/session")
    SessionView signOut(HttpServletRequest http) {
        var session = http.getSession(false);
        if (session != null) {
            session.invalidate();
        }
        SecurityContextHolder.clearContext();
        return view(null);
    }

    private SessionView view(Authentication signedIn) {
        var facts = company.facts();
        var today = company.today();
        if (signedIn == null
                || !signedIn.isAuthenticated()
                || signedIn.getAuthorities().stream()
                        .noneMatch(a -> a.getAuthority().startsWith("ROLE_"))
                || "anonymousUser".equals(signedIn.getName())) {
            return new SessionView(
                    "",
                    "",
                    "",
                    List.of(),
                    List.of(),
                    List.of(),
                    facts.name(),
                    facts.currency().getCurrencyCode(),
                    rules.decimalMark(),
                    today,
                    facts.demo());
        }
        var role = signedIn.getAuthorities().stream()
                .map(a -> a.getAuthority())
                .filter(a -> a.startsWith("ROLE_"))
                .findFirst()
                .map(a -> a.substring("ROLE_".length()))
                .orElseThrow();
        var standsInFor = deputies.rolesFor(signedIn.getName(), today);
        return new SessionView(
                signedIn.getName(),
                people.displayName(signedIn.getName()),
                role,
                standsInFor,
                Right.of(new Person(
                        signedIn.getName(),
                        Role.valueOf(role),
                        standsInFor.stream().map(Role::valueOf).collect(Collectors.toSet()))),
                Reading.Kind.of(Role.valueOf(role)),
                facts.name(),
                facts.currency().getCurrencyCode(),
                rules.decimalMark(),
                today,
                facts.demo());
    }
}
