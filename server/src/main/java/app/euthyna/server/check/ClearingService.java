package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Clearing;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.FindingDecisionRefusal;
import app.euthyna.core.check.FindingDecisions;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.flow.OpenOrderSink;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.order.OrderService;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Clears several orders in a sequence, each held against the world as those before it leave it (section 4). The preview
 * carries out the same and takes it back, so that it can't show anything else than what happens.
 */
@Service
class ClearingService {

    /** The reason in a preview, which is taken back. */
    private static final String UNSAID = "preview";

    private final CheckService checks;
    private final OrderService orders;
    private final ChainReader chains;
    private final FindingStore findings;
    private final CheckContextReader checkContexts;
    private final Checking checking;
    private final OpenOrderSink openOrders;
    private final MasterData masterData;
    private final Locks locks;
    private final Ids ids;
    private final Clearance clearance;
    private final Commands commands;
    private final Batches batches;
    private final TransactionTemplate transactions;

    ClearingService(
            CheckService checks,
            OrderService orders,
            ChainReader chains,
            FindingStore findings,
            CheckContextReader checkContexts,
            Checking checking,
            OpenOrderSink openOrders,
            MasterData masterData,
            Locks locks,
            Ids ids,
            Clearance clearance,
            Commands commands,
            Batches batches,
            TransactionTemplate transactions) {
        this.checking = checking;
        this.checks = checks;
        this.orders = orders;
        this.chains = chains;
        this.findings = findings;
        this.checkContexts = checkContexts;
        this.openOrders = openOrders;
        this.masterData = masterData;
        this.locks = locks;
        this.ids = ids;
        this.clearance = clearance;
        this.commands = commands;
        this.batches = batches;
        this.transactions = transactions;
    }

    /**
     * An order to be cleared.
     *
     * @param version that was seen; none is needed to ask what would happen
     * @param accepted what may pass although it grew by clearing those before it
     */
    record Asked(String number, Optional<Long> version, Set<Check> accepted) {}

    /** What becomes, or became, of an order. */
    enum Outcome {
        CLEARED,
        AWAITING_APPROVAL,
        HELD,
        REFUSED
    }

    /** A finding that is waived, or that holds the order. */
    record PassedView(String check, String brief, String sentence, boolean grew, boolean passes) {}

    /** Free stock of an item before the order and behind it. */
    record StockUse(String item, BigDecimal freeBefore, BigDecimal freeAfter) {}

    /** Use of a quota before the order and behind it. */
    record QuotaUse(
            String item, String scope, String key, BigDecimal usedBefore, BigDecimal usedAfter, BigDecimal granted) {}

    /** An order's place in the sequence. */
    record Step(
            String number,
            long version,
            String customer,
            String customerName,
            BigDecimal openGross,
            Outcome outcome,
            @Nullable String code,
            String sentence,
            BigDecimal exposureBefore,
            BigDecimal exposureAfter,
            @Nullable BigDecimal limit,
            List<PassedView> findings,
            List<StockUse> stock,
            List<QuotaUse> quotas) {}

    /**
     * All of a sequence; the fingerprint says what was shown.
     *
     * @param log the batch under which what was done is kept; null in a preview
     */
    record Sequence(
            List<Step> steps, String fingerprint, @Nullable Long log) {}

    Sequence preview(CommandContext context, List<Asked> asked) {
        return commands.retrying(() -> transactions.execute(status -> {
            status.setRollbackOnly();
            return run(context.because(UNSAID), asked);
        }));
    }

    /** Clears the orders as it was shown; refuses when something changed since. */
    @Transactional(propagation = Propagation.MANDATORY)
    public Sequence clear(CommandContext context, List<Asked> asked, String fingerprint) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for clearing these orders"));
        }
        if (asked.stream().anyMatch(one -> one.version().isEmpty())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("version", "the version of each order"));
        }
        var done = run(context, asked);
        if (!done.fingerprint().equals(fingerprint)) {
            throw new RefusedException(new PlatformRefusal.PreviewChanged());
        }
        var entries = done.steps().stream()
                .map(step -> new Batches.Entry(
                        done.steps().indexOf(step) + 1,
                        DocumentKind.ORDER,
                        step.number(),
                        goesOn(step) ? Batches.State.DONE : Batches.State.REFUSED,
                        goesOn(step) ? "" : Objects.requireNonNullElse(step.code(), "not-cleared"),
                        step.sentence(),
                        null,
                        null))
                .toList();
        return new Sequence(done.steps(), done.fingerprint(), batches.keep(context, Batches.Kind.CLEARING, entries));
    }

    private static boolean goesOn(Step step) {
        return step.outcome() == Outcome.CLEARED || step.outcome() == Outcome.AWAITING_APPROVAL;
    }

    private Sequence run(CommandContext context, List<Asked> asked) {
        if (!context.person().decides()) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "clear orders", context.person().role(), List.of(Role.CONTROLLER, Role.LEAD)));
        }
        var numbers = asked.stream().map(Asked::number).toList();
        if (Set.copyOf(numbers).size() != numbers.size()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("orders", "each order once"));
        }
        locks.customers(numbers.stream()
                .map(number -> ids.customer(chains.chain(number).order().customer()))
                .toList());
        locks.orders(numbers);
        checking.together(numbers);
        Map<String, List<Finding>> alone = new HashMap<>();
        numbers.forEach(number -> alone.put(number, now(context, chains.chain(number))));
        var steps = asked.stream()
                .map(one -> step(context, one, alone.get(one.number())))
                .toList();
        return new Sequence(steps, Hashes.sha256(Records.write(steps).getBytes(StandardCharsets.UTF_8)), null);
    }

    /** The findings as a run of the checks at this moment leaves them. */
    private List<Finding> now(CommandContext context, Chain chain) {
        return Checks.again(
                chain,
                checkContexts.of(chain.order(), context.today()),
                findings.of(chain.order().number()));
    }

    private Step step(CommandContext context, Asked asked, List<Finding> alone) {
        var number = asked.number();
        var chain = chains.chain(number);
        var version = orders.view(number).version();
        var order = chain.order();
        var customer = masterData.customer(order.customer());
        var checkContext = checkContexts.of(order, context.today());
        var exposure = checkContexts.position(order.customer(), "").exposure();
        var now = Checks.again(chain, checkContext, findings.of(number));
        var passing = Clearing.passing(alone, now, asked.accepted());
        var grown = Clearing.grown(alone, now);
        var told = now.stream()
                .filter(Finding::isOpen)
                .map(f -> new PassedView(
                        f.check().code(),
                        f.evidence().brief(),
                        f.evidence().sentence(),
                        grown.contains(f.check()),
                        passing.contains(f.check())))
                .toList();
        var refused = goOn(context, asked, version, chain, now, passing);
        var state = chains.chain(number).order().state();
        var outcome = refused.isPresent()
                ? Outcome.REFUSED
                : state == OrderState.HELD
                        ? Outcome.HELD
                        : state == OrderState.AWAITING_APPROVAL ? Outcome.AWAITING_APPROVAL : Outcome.CLEARED;
        openOrders.bringUpToDate();
        var behind = checkContexts.free(order);
        var stock = new ArrayList<StockUse>();
        new TreeMap<>(checkContext.free())
                .forEach((item, free) -> stock.add(
                        new StockUse(item, free.value(), behind.get(item).value())));
        var quotas = checkContext.quotas().stream()
                .map(quota -> {
                    var own = outcome == Outcome.CLEARED
                            ? chain.flows().stream()
                                    .filter(f -> f.line().item().equals(quota.item()))
                                    .map(f -> f.ordered().minus(f.cancelled()).value())
                                    .reduce(BigDecimal.ZERO, BigDecimal::add)
                            : BigDecimal.ZERO;
                    return new QuotaUse(
                            quota.item(),
                            quota.scope().words(),
                            quota.key(),
                            quota.used().value(),
                            quota.used().value().add(own),
                            quota.granted().value());
                })
                .toList();
        return new Step(
                number,
                version,
                order.customer(),
                customer.name(),
                chain.openGross().amount(),
                outcome,
                refused.map(Refusal::code).orElse(null),
                refused.map(Refusal::sentence).orElseGet(() -> sentence(outcome, number, told)),
                exposure.amount(),
                checkContexts.position(order.customer(), "").exposure().amount(),
                customer.rules().creditLimit().map(Money::amount).orElse(null),
                told,
                stock,
                quotas);
    }

    private String sentence(Outcome outcome, String number, List<PassedView> told) {
        return switch (outcome) {
            case CLEARED -> told.isEmpty() ? "Cleared; nothing held it." : "Cleared.";
            case AWAITING_APPROVAL -> "Waits for " + clearance.requestOf(number).waitsFor() + ".";
            case HELD, REFUSED ->
                "Stays held: "
                        + told.stream()
                                .filter(f -> !f.passes())
                                .map(PassedView::sentence)
                                .collect(Collectors.joining("; "))
                        + ".";
        };
    }

    /** Waives what may be waived and sets the state that follows; a refusal leaves the order as it was. */
    private Optional<Refusal> goOn(
            CommandContext context, Asked asked, long version, Chain chain, List<Finding> now, Set<Check> passing) {
        var number = asked.number();
        var order = chain.order();
        if (asked.version().isPresent() && asked.version().get() != version) {
            return Optional.of(new PlatformRefusal.StaleVersion(
                    "Order " + number, asked.version().get(), version));
        }
        if (order.state() == OrderState.AWAITING_APPROVAL) {
            try {
                clearance.approve(context, number, version);
            } catch (RefusedException refused) {
                return Optional.of(refused.refusals().get(0));
            }
            return Optional.empty();
        }
        var after = now;
        if (!passing.isEmpty()) {
            var decision =
                    FindingDecisions.waive(chain, now, passing, context.person(), context.reason(), context.today());
            if (decision.isRefused()) {
                return Optional.of(decision.refusals().get(0));
            }
            after = decision.get();
        } else if (order.state() != OrderState.HELD) {
            return Optional.of(new FindingDecisionRefusal.NothingOpen(number, order.state()));
        }
        checks.settle(context, chain, after, passing);
        return Optional.empty();
    }
}
