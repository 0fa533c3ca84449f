package app.euthyna.server.check;

import app.euthyna.core.check.Check;
import app.euthyna.core.check.CheckContext;
import app.euthyna.core.check.Checks;
import app.euthyna.core.check.Clearing;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.FindingDecisionRefusal;
import app.euthyna.core.check.FindingDecisions;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.order.OrderState;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.check.ClearingService.Asked;
import app.euthyna.server.check.ClearingService.Outcome;
import app.euthyna.server.check.ClearingService.PassedView;
import app.euthyna.server.check.ClearingService.QuotaUse;
import app.euthyna.server.check.ClearingService.Step;
import app.euthyna.server.check.ClearingService.StockUse;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.order.OrderDecisions;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.Set;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** One order's place in a sequence that is cleared: what it meets there, and what becomes of it. */
@Component
class ClearingSteps {

    private final CheckService checks;
    private final OrderDecisions decisions;
    private final Cases cases;
    private final MasterData masterData;
    private final Clearance clearance;
    private final Approver approver;

    ClearingSteps(
            CheckService checks,
            OrderDecisions decisions,
            Cases cases,
            MasterData masterData,
            Clearance clearance,
            Approver approver) {
        this.checks = checks;
        this.decisions = decisions;
        this.cases = cases;
        this.masterData = masterData;
        this.clearance = clearance;
        this.approver = approver;
    }

    Step step(CommandContext context, Asked asked, List<Finding> alone) {
        var number = asked.number();
        var chain = cases.chain(number);
        var version = decisions.version(number);
        var order = chain.order();
        var customer = masterData.customer(order.customer());
        var checkContext = cases.context(order, context.today());
        var exposure = cases.position(order.customer()).exposure();
        var now = Checks.again(chain, checkContext, cases.findings(number));
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
        var state = cases.chain(number).order().state();
        var outcome = refused.isPresent()
                ? Outcome.REFUSED
                : state == OrderState.HELD
                        ? Outcome.HELD
                        : state == OrderState.AWAITING_APPROVAL ? Outcome.AWAITING_APPROVAL : Outcome.CLEARED;
        cases.bringUpToDate();
        var behind = cases.free(order);
        var stock = new ArrayList<StockUse>();
        new TreeMap<>(checkContext.free())
                .forEach((item, free) -> stock.add(
                        new StockUse(item, free.value(), behind.get(item).value())));
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
                cases.position(order.customer()).exposure().amount(),
                customer.rules().creditLimit().map(Money::amount).orElse(null),
                told,
                stock,
                quotas(chain, checkContext, outcome));
    }

    private static List<QuotaUse> quotas(Chain chain, CheckContext checkContext, Outcome outcome) {
        return checkContext.quotas().stream()
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
                approver.approve(context, number, version);
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
