package app.euthyna.server.approval;

import app.euthyna.core.approval.ApprovalRule.Circumstances;
import app.euthyna.core.approval.Approving;
import app.euthyna.core.approval.Approving.Ask;
import app.euthyna.core.approval.GoodsForNothing;
import app.euthyna.core.approval.Level;
import app.euthyna.core.check.Checks.Occasion;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.Severity;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.order.Order;
import app.euthyna.core.order.OrderLine;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.RoleLimits;
import app.euthyna.server.approval.ApprovalStore.State;
import app.euthyna.server.approval.ApprovalStore.StoredRule;
import app.euthyna.server.check.Checking;
import app.euthyna.server.check.Clearance;
import app.euthyna.server.check.FindingStore;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.Item;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.people.People;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.CompanyClock;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.History;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.Collection;
import java.util.Collections;
import java.util.List;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.beans.factory.ObjectProvider;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Asks for approval where the rules want it, and takes the decisions of those who carry the level. */
@Service
@org.springframework.core.annotation.Order(65)
public class ApprovalService implements Clearance, EffectSink {

    private final ApprovalStore store;
    private final FindingStore findings;
    private final ChainReader chains;
    private final ObjectProvider<OrderService> orders;
    private final ObjectProvider<EffectWriter> writer;
    private final ObjectProvider<Checking> checking;
    private final History history;
    private final Locks locks;
    private final Ids ids;
    private final ApprovalQueries queries;
    private final CompanyRulesStore rules;
    private final Company company;
    private final MasterData masterData;
    private final People people;
    private final CompanyClock clock;

    ApprovalService(
            ApprovalStore store,
            FindingStore findings,
            ChainReader chains,
            ObjectProvider<OrderService> orders,
            ObjectProvider<EffectWriter> writer,
            ObjectProvider<Checking> checking,
            History history,
            Locks locks,
            Ids ids,
            ApprovalQueries queries,
            CompanyRulesStore rules,
            Company company,
            MasterData masterData,
            People people,
            CompanyClock clock) {
        this.clock = clock;
        this.rules = rules;
        this.company = company;
        this.masterData = masterData;
        this.people = people;
        this.store = store;
        this.findings = findings;
        this.chains = chains;
        this.orders = orders;
        this.writer = writer;
        this.checking = checking;
        this.history = history;
        this.locks = locks;
        this.ids = ids;
        this.queries = queries;
    }

    @Override
    public OrderState decide(CommandContext context, Chain chain, List<Finding> findings, Occasion occasion) {
        var order = chain.order();
        if (order.state() == OrderState.CLEARED && occasion == Occasion.WORLD_CHANGED) {
            return OrderState.CLEARED;
        }
        var asked = asked(order, findings);
        var pending = Approving.pending(order, asked, store.approvals(order.number()));
        if (pending.isEmpty()) {
            return OrderState.CLEARED;
        }
        if (order.state() != OrderState.AWAITING_APPROVAL || store.asksOther(order.number(), asked, pending.get(0))) {
            store.ask(context, order.number(), asked, pending.get(0));
        }
        return OrderState.AWAITING_APPROVAL;
    }

    private List<Ask> asked(Order order, List<Finding> findings) {
        var waived =
                findings.stream().anyMatch(f -> f.state() == Finding.State.WAIVED && f.severity() == Severity.STOP);
        return Approving.asked(
                order, store.rulesFor(order.customer()), new Circumstances(isFirst(order), waived, forNothing(order)));
    }

    private GoodsForNothing forNothing(Order order) {
        var limits = rules.inForce().limits().goodsForNothing();
        var free = GoodsForNothing.lines(order).map(OrderLine::item).collect(Collectors.toSet());
        if (limits.isEmpty() || free.isEmpty()) {
            return GoodsForNothing.UNLIMITED;
        }
        var before = givenBefore(order);
        before.forEach(given -> free.add(given.item()));
        return new GoodsForNothing(
                new RoleLimits(company.amounts(limits)),
                masterData.items(free).values().stream().collect(Collectors.toMap(Item::code, Item::price)),
                people.rolesOf(order.everyWriter()),
                before);
    }

    /** What the writers of an order gave its customer for nothing of late, by the day on which it was let go. */
    private List<GoodsForNothing.Given> givenBefore(Order order) {
        var numbers = queries.givenBefore(
                ids.customer(order.customer()), order.number(), clock.today().minusDays(GoodsForNothing.DAYS_TOGETHER));
        var writers = order.everyWriter();
        return chains.chains(numbers).values().stream()
                .filter(chain -> !Collections.disjoint(chain.order().everyWriter(), writers))
                .flatMap(chain -> GoodsForNothing.lines(chain.order())
                        .map(line -> new GoodsForNothing.Given(
                                line.item(),
                                chain.flow(line.no())
                                        .ordered()
                                        .minus(chain.flow(line.no()).cancelled()))))
                .toList();
    }

    private boolean isFirst(Order order) {
        return queries.taken(ids.customer(order.customer()), order.number()).isEmpty();
    }

    @Override
    @Transactional(readOnly = true)
    public List<String> asks(Order order) {
        return asked(order, List.of()).stream()
                .map(ask -> ask.reason() + ": " + ask.level().words() + " must agree")
                .toList();
    }

    /** Approves the level that is pending; the order is cleared with the last of them. */
    @Override
    @Transactional(propagation = Propagation.MANDATORY, noRollbackFor = RefusedException.class)
    public void approve(CommandContext context, String number, long version) {
        locks.customerAndOrder(number);
        var order = chains.chain(number).order();
        var asked = asked(order, findings.of(number));
        var approval = RefusedException.orThrow(Approving.approve(
                order, asked, store.approvals(number), context.person(), context.reason(), context.today()));
        orders.getObject().requireVersion(number, version);
        // it stands on what is true now, or is refused
        checking.getObject().asSeen(context, number);
        store.add(number, approval);
        orders.getObject().agreed(number);
        chains.readAgain(number);
        history.note(
                context,
                number,
                "approved",
                "approved for " + approval.level().words()
                        + (approval.level().roles().contains(context.person().role()) ? "" : ", as deputy")
                        + (context.reason().isBlank() ? "" : ": " + context.reason()));
        var pending = Approving.pending(order, asked, store.approvals(number));
        if (pending.isEmpty()) {
            writer.getObject()
                    .write(context, List.of(new Effect.StateChanged(number, order.state(), OrderState.CLEARED)));
        } else {
            store.ask(context, number, asked, pending.get(0));
            orders.getObject().moveVersion(number);
        }
    }

    @Transactional(propagation = Propagation.MANDATORY)
    public void sendBack(CommandContext context, String number, long version) {
        locks.customerAndOrder(number);
        back(
                context,
                number,
                version,
                "sent back",
                Approving.sendBack(chains.chain(number).order(), context.person(), context.reason()));
    }

    /** The order is a draft again, and its history says who wanted that. */
    private void back(CommandContext context, String number, long version, String word, Decision<Effect> decision) {
        var effect = RefusedException.orThrow(decision);
        orders.getObject().requireVersion(number, version);
        history.note(context, number, word.replace(' ', '-'), word + ": " + context.reason());
        writer.getObject().write(context, List.of(effect));
    }

    @Transactional(propagation = Propagation.MANDATORY)
    public void recall(CommandContext context, String number, long version) {
        locks.customerAndOrder(number);
        back(
                context,
                number,
                version,
                "recalled",
                Approving.recall(chains.chain(number).order(), context.person(), context.reason()));
    }

    /** Asks for a level from so much net amount on, for all customers without rules of their own. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void askAbove(Map<Level, BigDecimal> bands) {
        store.write(
                null,
                bands.entrySet().stream()
                        .sorted(Map.Entry.comparingByKey())
                        .map(band -> new StoredRule(StoredRule.Kind.NET_ABOVE, band.getValue(), null, band.getKey()))
                        .toList());
    }

    /** A request ends with the state that it was about. */
    @Override
    public void store(CommandContext context, Effect effect) {
        if (effect instanceof Effect.StateChanged changed) {
            ended(context, changed);
        }
    }

    private void ended(CommandContext context, Effect.StateChanged effect) {
        var ended = switch (effect.to()) {
            case CLEARED -> State.APPROVED;
            case DECLINED -> State.DECLINED;
            case DRAFT -> State.SENT_BACK;
            case CANCELLED, COMPLETED, CLOSED_SHORT -> State.WITHDRAWN;
            // an order that is held while it awaits approval keeps its request and what was granted
            case SUBMITTED, AWAITING_APPROVAL, HELD -> null;
        };
        if (ended != null
                && (effect.from() == OrderState.AWAITING_APPROVAL
                        || ended == State.SENT_BACK
                        || store.isOpen(effect.order()))) {
            store.close(context, effect.order(), ended);
        }
    }

    @Override
    public RequestView requestOf(String order) {
        return store.request(order)
                .map(request -> new RequestView(
                        request.state().name(),
                        request.askedOn(),
                        request.reasons(),
                        request.waitsFor() == null ? null : request.waitsFor().words(),
                        request.waitsFor() == null
                                ? List.of()
                                : request.waitsFor().roles(),
                        store.approvals(order).stream()
                                .map(a -> new ApprovalView(a.level().words(), a.by(), a.on(), a.reason()))
                                .toList(),
                        request.closedBy(),
                        request.closedOn(),
                        request.closing()))
                .orElse(null);
    }

    @Override
    public Map<Long, Wait> waiting(Collection<Long> orders) {
        return orders.isEmpty()
                ? Map.of()
                : queries.waiting(Many.ids(orders)).stream()
                        .collect(Collectors.toMap(
                                ApprovalQueries.WaitingRow::orderId,
                                row -> new Wait(
                                        "waits for "
                                                + Level.valueOf(row.waitsFor()).words(),
                                        row.askedOn())));
    }
}
