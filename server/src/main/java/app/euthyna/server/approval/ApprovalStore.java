package app.euthyna.server.approval;

import app.euthyna.core.approval.ApprovalRule;
import app.euthyna.core.approval.Approving.Approval;
import app.euthyna.core.approval.Approving.Ask;
import app.euthyna.core.approval.Level;
import app.euthyna.core.order.Content;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderKind;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Records;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.Collection;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** Rules, requests and approvals in the database; the content that was approved as JSON. */
@Component
class ApprovalStore {

    /** States of a request. */
    enum State {
        AWAITING,
        APPROVED,
        DECLINED,
        SENT_BACK,
        WITHDRAWN
    }

    /** A rule as it is stored: which of the figures counts depends on its kind. */
    record StoredRule(Kind kind, BigDecimal figure, OrderKind orderKind, Level level) {

        enum Kind {
            NET_ABOVE,
            DISCOUNT_ABOVE,
            ORDER_KIND,
            STOPS_WAIVED,
            FIRST_ORDER
        }
    }

    /** A request as it stands. */
    record Request(
            State state,
            LocalDate askedOn,
            List<String> reasons,
            Level waitsFor,
            String closedBy,
            LocalDate closedOn,
            String closing) {}

    private final ApprovalQueries queries;
    private final Ids ids;
    private final Company company;
    private final MasterData masterData;

    ApprovalStore(ApprovalQueries queries, Ids ids, Company company, MasterData masterData) {
        this.queries = queries;
        this.ids = ids;
        this.company = company;
        this.masterData = masterData;
    }

    /** Whether no order of the customer was let go before. */
    boolean isFirst(Order order) {
        return queries.taken(ids.customer(order.customer()), order.number()).isEmpty();
    }

    /** Other orders with goods for nothing that a customer was let have since a day. */
    List<String> givenBefore(Order order, LocalDate since) {
        return queries.givenBefore(ids.customer(order.customer()), order.number(), since);
    }

    /** What orders by their id wait for. */
    List<ApprovalQueries.WaitingRow> waiting(Collection<Long> orders) {
        return queries.waiting(Many.ids(orders));
    }

    /** The rules that hold for a customer: its own, or the company's. */
    List<ApprovalRule> rulesFor(String customer) {
        return rules(hasOwn(customer) ? customer : null).stream()
                .map(this::toCore)
                .toList();
    }

    boolean hasOwn(String customer) {
        return masterData.hasOwnApproval(customer);
    }

    /** The rules of the company, or a customer's own. */
    List<StoredRule> rules(String customer) {
        var rules = customer == null ? queries.companyRules() : queries.ownRules(ids.customer(customer));
        return rules.stream()
                .map(rule -> new StoredRule(
                        StoredRule.Kind.valueOf(rule.kind),
                        rule.figure,
                        rule.orderKind == null ? null : OrderKind.valueOf(rule.orderKind),
                        Level.valueOf(rule.level)))
                .toList();
    }

    private ApprovalRule toCore(StoredRule rule) {
        return switch (rule.kind()) {
            case NET_ABOVE -> new ApprovalRule.NetAbove(company.money(rule.figure()), rule.level());
            case DISCOUNT_ABOVE -> new ApprovalRule.DiscountAbove(rule.figure(), rule.level());
            case ORDER_KIND -> new ApprovalRule.OfKind(rule.orderKind(), rule.level());
            case STOPS_WAIVED -> new ApprovalRule.StopsWaived(rule.level());
            case FIRST_ORDER -> new ApprovalRule.FirstOrder(rule.level());
        };
    }

    /** Writes the rules anew; a customer gets rules of its own by it, or loses them where {@code rules} is null. */
    void write(String customer, List<StoredRule> rules) {
        Long id = customer == null ? null : ids.customer(customer);
        if (id == null) {
            queries.removeCompanyRules();
        } else {
            queries.removeOwnRules(id);
            masterData.letHaveOwnApproval(customer, rules != null);
        }
        if (rules != null) {
            rules.forEach(rule -> {
                var row = new ApprovalRuleEntity();
                row.customerId = id;
                row.kind = rule.kind().name();
                row.figure = rule.figure();
                row.orderKind =
                        rule.orderKind() == null ? null : rule.orderKind().name();
                row.level = rule.level().name();
                queries.session().insert(row);
            });
        }
    }

    List<Approval> approvals(String order) {
        return queries.approvals(ids.order(order)).stream()
                .map(row -> new Approval(
                        Level.valueOf(row.level()),
                        row.approvedBy(),
                        row.approvedOn(),
                        row.reason(),
                        Records.read(row.content(), Content.class)))
                .toList();
    }

    void add(String order, Approval approval) {
        var row = new ApprovalEntity();
        row.orderId = ids.order(order);
        row.level = approval.level().name();
        row.approvedBy = approval.by();
        row.approvedOn = approval.on();
        row.reason = approval.reason();
        row.content = Records.write(approval.content());
        queries.session().insert(row);
    }

    Optional<Request> request(String order) {
        return queries.request(ids.order(order))
                .map(row -> new Request(
                        State.valueOf(row.state()),
                        row.askedOn(),
                        row.reasons().lines().toList(),
                        row.waitsFor() == null ? null : Level.valueOf(row.waitsFor()),
                        row.closedBy(),
                        row.closedOn(),
                        row.closing()));
    }

    /** Whether a request of an order is open. */
    boolean isOpen(String order) {
        return request(order).filter(r -> r.state() == State.AWAITING).isPresent();
    }

    /** Whether an order's open request says anything else. */
    boolean asksOther(String order, List<Ask> asked, Level waitsFor) {
        return request(order)
                .filter(r -> r.state() == State.AWAITING
                        && r.waitsFor() == waitsFor
                        && String.join("\n", r.reasons()).equals(reasons(asked)))
                .isEmpty();
    }

    private static String reasons(List<Ask> asked) {
        return asked.stream().map(Ask::reason).distinct().collect(Collectors.joining("\n"));
    }

    /** Opens a request, or carries an open one on to its next level. */
    void ask(CommandContext context, String order, List<Ask> asked, Level waitsFor) {
        var id = ids.order(order);
        var reasons = reasons(asked);
        var since = request(order)
                .filter(r -> r.state() == State.AWAITING)
                .map(Request::askedOn)
                .orElse(context.today());
        var row = new ApprovalRequestEntity();
        row.orderId = id;
        row.state = State.AWAITING.name();
        row.askedOn = since;
        row.reasons = reasons;
        row.waitsFor = waitsFor.name();
        queries.session().upsert(row);
    }

    /** Ends a request. A held order that is sent back gets one by it, so that its author sees by whom and why. */
    void close(CommandContext context, String order, State state) {
        var id = ids.order(order);
        if (request(order).isEmpty()) {
            var row = new ApprovalRequestEntity();
            row.orderId = id;
            row.state = state.name();
            row.askedOn = context.today();
            row.reasons = "";
            queries.session().insert(row);
        }
        queries.close(state.name(), context.person().username(), context.today(), context.reason(), id);
    }
}
