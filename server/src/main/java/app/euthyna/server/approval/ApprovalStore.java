package app.euthyna.server.approval;

import app.euthyna.core.approval.ApprovalRule;
import app.euthyna.core.approval.Approving.Approval;
import app.euthyna.core.approval.Approving.Ask;
import app.euthyna.core.approval.Level;
import app.euthyna.core.order.Content;
import app.euthyna.core.order.OrderKind;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Records;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
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

    private final JdbcClient jdbc;
    private final Ids ids;
    private final Company company;

    ApprovalStore(JdbcClient jdbc, Ids ids, Company company) {
        this.jdbc = jdbc;
        this.ids = ids;
        this.company = company;
    }

    /** The rules that hold for a customer: its own, or the company's. */
    List<ApprovalRule> rulesFor(String customer) {
        return rules(hasOwn(customer) ? customer : null).stream()
                .map(this::toCore)
                .toList();
    }

    boolean hasOwn(String customer) {
        return jdbc.sql("select own_approval from customer where code = ?")
                .param(customer)
                .query(Boolean.class)
                .single();
    }

    /** The rules of the company, or a customer's own. */
    List<StoredRule> rules(String customer) {
        var which = customer == null ? "customer_id is null" : "customer_id = " + ids.customer(customer);
        return jdbc.sql("select kind, figure, order_kind, level from approval_rule where " + which + " order by id")
                .query(StoredRule.class)
                .list();
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
        jdbc.sql("delete from approval_rule where " + (id == null ? "customer_id is null" : "customer_id = " + id))
                .update();
        if (id != null) {
            jdbc.sql("update customer set own_approval = ? where id = ?")
                    .params(rules != null, id)
                    .update();
        }
        if (rules != null) {
            rules.forEach(rule -> jdbc.sql(
                            "insert into approval_rule (customer_id, kind, figure, order_kind, level) values (?, ?, ?,"
                                    + " ?, ?)")
                    .param(id)
                    .param(rule.kind().name())
                    .param(rule.figure())
                    .param(rule.orderKind() == null ? null : rule.orderKind().name())
                    .param(rule.level().name())
                    .update());
        }
    }

    List<Approval> approvals(String order) {
        return jdbc.sql("select level, approved_by, approved_on, reason, content from approval where order_id = ?"
                        + " order by id")
                .param(ids.order(order))
                .query((r, n) -> new Approval(
                        Level.valueOf(r.getString(1)),
                        r.getString(2),
                        r.getObject(3, LocalDate.class),
                        r.getString(4),
                        Records.read(r.getString(5), Content.class)))
                .list();
    }

    void add(String order, Approval approval) {
        jdbc.sql("insert into approval (order_id, level, approved_by, approved_on, reason, content) values (?,"
                        + " ?, ?, ?, ?, ?)")
                .params(
                        ids.order(order),
                        approval.level().name(),
                        approval.by(),
                        approval.on(),
                        approval.reason(),
                        Records.write(approval.content()))
                .update();
    }

    Optional<Request> request(String order) {
        return jdbc.sql("select state, asked_on, reasons, waits_for, closed_by, closed_on, closing from"
                        + " approval_request where order_id = ?")
                .param(ids.order(order))
                .query((r, n) -> new Request(
                        State.valueOf(r.getString(1)),
                        r.getObject(2, LocalDate.class),
                        r.getString(3).lines().toList(),
                        r.getString(4) == null ? null : Level.valueOf(r.getString(4)),
                        r.getString(5),
                        r.getObject(6, LocalDate.class),
                        r.getString(7)))
                .optional();
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
        jdbc.sql("delete from approval_request where order_id = ?").param(id).update();
        jdbc.sql("insert into approval_request (order_id, state, asked_on, reasons, waits_for) values (?, ?, ?, ?, ?)")
                .params(id, State.AWAITING.name(), since, reasons, waitsFor.name())
                .update();
    }

    /** Ends a request. A held order that is sent back gets one by it, so that its author sees by whom and why. */
    void close(CommandContext context, String order, State state) {
        var id = ids.order(order);
        if (request(order).isEmpty()) {
            jdbc.sql("insert into approval_request (order_id, state, asked_on, reasons) values (?, ?, ?, '')")
                    .params(id, state.name(), context.today())
                    .update();
        }
        jdbc.sql("update approval_request set state = ?, waits_for = null, closed_by = ?, closed_on = ?,"
                        + " closing = ? where order_id = ?")
                .params(state.name(), context.person().username(), context.today(), context.reason(), id)
                .update();
    }
}
