package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import jakarta.servlet.http.HttpServletRequest;
import jakarta.servlet.http.HttpServletResponse;
import java.util.Collections;
import java.util.EnumSet;
import java.util.List;
import java.util.Set;
import java.util.stream.Collectors;
import java.util.stream.Stream;
import org.springframework.http.server.PathContainer;
import org.springframework.security.access.AccessDeniedException;
import org.springframework.security.core.context.SecurityContextHolder;
import org.springframework.web.servlet.HandlerInterceptor;
import org.springframework.web.util.pattern.PathPattern;
import org.springframework.web.util.pattern.PathPatternParser;

/**
 * Who may read what (section 15, its table): every address of the interface stands here once, the more special before
 * the more general, and what stands nowhere is read by nobody.
 */
public final class Reading implements HandlerInterceptor {

    public static final Set<Role> ALL = Collections.unmodifiableSet(EnumSet.allOf(Role.class));
    /** Goods and quantities. */
    public static final Set<Role> BUSINESS = Collections.unmodifiableSet(EnumSet.complementOf(EnumSet.of(Role.ADMIN)));
    /** Selling prices and values. */
    public static final Set<Role> SELLING =
            Collections.unmodifiableSet(EnumSet.complementOf(EnumSet.of(Role.ADMIN, Role.WAREHOUSE)));

    /** The ledger. */
    public static final Set<Role> BOOKS =
            Collections.unmodifiableSet(EnumSet.of(Role.RECEIVABLES, Role.CONTROLLER, Role.LEAD, Role.AUDITOR));

    public static final Set<Role> SETTINGS =
            Collections.unmodifiableSet(EnumSet.complementOf(EnumSet.of(Role.WAREHOUSE)));

    public static final Set<Role> ACCESS = Collections.unmodifiableSet(EnumSet.of(Role.LEAD, Role.AUDITOR, Role.ADMIN));

    /** What a role may read, for a screen that shows no place whose questions would be refused. */
    public enum Kind {
        GOODS(BUSINESS),
        SELLING(Reading.SELLING),
        SETTINGS(Reading.SETTINGS),
        COSTS(rolesReading(ReadBy.Group.COSTS)),
        BOOKS(Reading.BOOKS),
        ACCESS(Reading.ACCESS);

        @SuppressWarnings("ImmutableEnumChecker") // never changed
        private final Set<Role> roles;

        Kind(Set<Role> roles) {
            this.roles = roles;
        }

        /** All that a role reads. */
        public static List<Kind> of(Role role) {
            return Stream.of(values()).filter(kind -> kind.roles.contains(role)).toList();
        }

        private static Set<Role> rolesReading(ReadBy.Group group) {
            return Stream.of(Role.values()).filter(group::isRead).collect(Collectors.toUnmodifiableSet());
        }
    }

    /** Addresses, and the roles that may read there. */
    public record Rule(PathPattern path, Set<Role> roles) {
        private static Rule of(String path, Set<Role> roles) {
            return new Rule(PathPatternParser.defaultInstance.parse(path), roles);
        }
    }

    public static final List<Rule> RULES = List.of(
            Rule.of("/api/openapi.json", ALL),
            Rule.of("/api/health", ALL),
            Rule.of("/api/session", ALL),
            Rule.of("/api/today", ALL),
            Rule.of("/api/sites", ALL),
            Rule.of("/api/users/access", ACCESS),
            Rule.of("/api/users", ALL),
            Rule.of("/api/users/absences", ALL),
            Rule.of("/api/outbox/**", ALL),
            // each list says for itself who reads it
            Rule.of("/api/lists/**", ALL),
            // settings, and what order entry asks of every order
            Rule.of("/api/rules", SETTINGS),
            Rule.of("/api/approval-rules", SETTINGS),
            Rule.of("/api/simulated-payment-service", SETTINGS),
            Rule.of("/api/customers/{code}/approval-rules", SETTINGS),
            Rule.of("/api/customers", ALL),
            Rule.of("/api/customers/{code}", SETTINGS),
            Rule.of("/api/customers/{code}/address", ALL),
            Rule.of("/api/customers/{code}/sheet", SETTINGS),
            Rule.of("/api/items", ALL),
            Rule.of("/api/items/{code}/sheet", ALL),
            Rule.of("/api/items/{code}/prices", SETTINGS),
            Rule.of("/api/items/{code}/quotas", SETTINGS),
            // goods and quantities
            Rule.of("/api/items/{code}/claims", BUSINESS),
            Rule.of("/api/stock/**", BUSINESS),
            Rule.of("/api/goods/**", BUSINESS),
            Rule.of("/api/dispatches/{number}", BUSINESS),
            Rule.of("/api/returns/**", BUSINESS),
            Rule.of("/api/returnable", BUSINESS),
            Rule.of("/api/unexpected-goods/**", BUSINESS),
            Rule.of("/api/batches/**", BUSINESS),
            Rule.of("/api/prints/{id}/pdf", BUSINESS),
            Rule.of("/api/papers/{paper}", BUSINESS),
            Rule.of("/api/find", ALL),
            Rule.of("/api/orders/{number}/attachments/**", SELLING),
            Rule.of("/api/write-offs/{number}/attachments/**", SELLING),
            Rule.of("/api/{owner}/{number}/attachments/**", BUSINESS),
            // selling prices, values, money
            Rule.of("/api/orders/**", SELLING),
            Rule.of("/api/review/**", SELLING),
            Rule.of("/api/sales-agreements/**", SELLING),
            Rule.of("/api/imports/**", SELLING),
            Rule.of("/api/customers/{code}/**", SELLING),
            Rule.of("/api/billing/to-bill", SELLING),
            Rule.of("/api/invoices/**", SELLING),
            Rule.of("/api/credit-notes/**", SELLING),
            Rule.of("/api/deposits/**", SELLING),
            Rule.of("/api/payments/**", SELLING),
            Rule.of("/api/payouts", SELLING),
            Rule.of("/api/refunds/**", SELLING),
            Rule.of("/api/write-offs/**", SELLING),
            Rule.of("/api/disputes/**", SELLING),
            Rule.of("/api/trails/**", SELLING),
            Rule.of("/api/unwind/**", SELLING),
            // the books
            Rule.of("/api/ledger/**", BOOKS),
            Rule.of("/api/bank-statements/**", BOOKS),
            Rule.of("/api/demo/bank-statement", BOOKS),
            Rule.of("/api/proofs/**", BOOKS));

    /** What is written there is for those who may read it there; elsewhere the commands name their roles alone. */
    private static final List<PathPattern> WRITTEN_BY_READERS = Stream.of("/api/orders/**", "/api/unwind/**")
            .map(PathPatternParser.defaultInstance::parse)
            .toList();

    private static boolean isRead(HttpServletRequest request) {
        return request.getMethod().equals("GET") || request.getMethod().equals("HEAD");
    }

    private static boolean isForReaders(HttpServletRequest request) {
        var path = PathContainer.parsePath(request.getRequestURI());
        return WRITTEN_BY_READERS.stream().anyMatch(pattern -> pattern.matches(path));
    }

    @Override
    public boolean preHandle(HttpServletRequest request, HttpServletResponse response, Object handler) {
        var role = role();
        if (role != null) {
            var may = may(request.getRequestURI());
            if (!isRead(request)) {
                if (isForReaders(request) && !may.contains(role)) {
                    throw new AccessDeniedException("not among the readers of " + request.getRequestURI());
                }
                return true;
            }
            if (may.isEmpty()) {
                throw new RefusedException(new CommonRefusal.NotFound("address", request.getRequestURI()));
            }
            check("read this", may);
        }
        return true;
    }

    /** The roles that may read an address. */
    public static Set<Role> may(String uri) {
        var path = PathContainer.parsePath(uri);
        return RULES.stream()
                .filter(rule -> rule.path().matches(path))
                .findFirst()
                .map(Rule::roles)
                .orElse(EnumSet.noneOf(Role.class));
    }

    /** Whether whoever is signed in is one of some roles; what the server asks for itself is never barred. */
    public static boolean isOne(Set<Role> roles) {
        var role = role();
        return role == null || roles.contains(role);
    }

    /** Whether somebody is signed in, as one of some roles. */
    public static boolean isOneOf(Set<Role> roles) {
        return role() != null && isOne(roles);
    }

    /** Refused where whoever is signed in is none of some roles. */
    public static void check(String action, Set<Role> roles) {
        var role = role();
        if (role != null && !roles.contains(role)) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(action, role, List.copyOf(roles)));
        }
    }

    /** The name of whoever is signed in; empty where nobody is. */
    public static String me() {
        var signedIn = SecurityContextHolder.getContext().getAuthentication();
        return signedIn == null ? "" : signedIn.getName();
    }

    /** The role of whoever is signed in; null where nobody is. */
    static Role role() {
        var signedIn = SecurityContextHolder.getContext().getAuthentication();
        return signedIn == null
                ? null
                : signedIn.getAuthorities().stream()
                        .map(a -> a.getAuthority())
                        .filter(a -> a.startsWith("ROLE_") && !a.equals("ROLE_ANONYMOUS"))
                        .findFirst()
                        .map(a -> Role.valueOf(a.substring("ROLE_".length())))
                        .orElse(null);
    }
}
