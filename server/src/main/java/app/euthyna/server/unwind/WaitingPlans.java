package app.euthyna.server.unwind;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.EffectHandlers;
import app.euthyna.core.flow.Return;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.unwind.Intent;
import app.euthyna.core.unwind.Placeholders;
import app.euthyna.core.unwind.Plan;
import app.euthyna.core.unwind.Planner;
import app.euthyna.core.unwind.UnwindRequest;
import app.euthyna.server.ledger.LedgerKeeping;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectSink;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.unwind.Unwindings.Waiting;
import app.euthyna.server.unwind.Unwindings.WaitsFor;
import java.util.ArrayList;
import java.util.List;
import java.util.Optional;
import java.util.function.Function;
import org.springframework.core.annotation.Order;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/**
 * Plans that wait: they go on by themselves, in the transaction of whatever they waited for, and whoever may decides on
 * or gives up what does not come.
 */
@Component
@Order(80)
class WaitingPlans implements EffectSink, LedgerKeeping.PeriodOpened {

    /** The return that an effect is about. */
    private static final EffectHandlers<WaitingPlans, Optional<Return>> RETURNS =
            EffectHandlers.<WaitingPlans, Optional<Return>>answers(Optional.empty())
                    .answer(Effect.ReturnReceived.class, (who, effect) -> Optional.of(effect.before()))
                    .answer(Effect.ReturnInspected.class, (who, effect) -> Optional.of(effect.before()))
                    .answer(Effect.ReturnWithdrawn.class, (who, effect) -> Optional.of(effect.before()))
                    .othersDoNotConcernIt();

    private final Unwindings unwindings;
    private final UnwindContexts unwindContexts;
    private final CompanyRulesStore rules;
    private final Locks locks;
    private final EffectWriter writer;
    private final Company company;

    WaitingPlans(
            Unwindings unwindings,
            UnwindContexts unwindContexts,
            CompanyRulesStore rules,
            Locks locks,
            EffectWriter writer,
            Company company) {
        this.unwindings = unwindings;
        this.unwindContexts = unwindContexts;
        this.rules = rules;
        this.locks = locks;
        this.writer = writer;
        this.company = company;
    }

    @Override
    public void follow(CommandContext context, List<Effect> batch, Further further) {
        batch.forEach(effect -> RETURNS.of(this, effect).ifPresent(goods -> goOn(context, goods, further)));
    }

    private void goOn(CommandContext context, Return goods, Further further) {
        for (var plan : unwindings.ofReturn(goods.number())) {
            var rest = rest(context, plan, plan.by());
            if (rest.isRefused()) {
                unwindings.goesOn(context, plan, Optional.of(Plan.Kind.CREDIT), Optional.of(WaitsFor.PERIOD));
            } else if (rest.get().steps().isEmpty() && nothingCame(plan)) {
                unwindings.abandoned(context, plan, "the return was withdrawn");
            } else {
                settle(context, plan, rest.get());
                further.write(
                        context.because(
                                "as planned by %s: %s".formatted(plan.by().username(), plan.reason())),
                        effects(rest.get()));
            }
        }
    }

    private static List<Effect> effects(Plan plan) {
        return plan.now().stream().flatMap(step -> step.effects().stream()).toList();
    }

    private boolean nothingCame(Waiting plan) {
        var subject = new DocumentRef(DocumentKind.RETURN, plan.returnNumber().orElseThrow());
        return !Chain.returnOf(unwindContexts.of(subject).chains(), subject.number())
                .anyReceived();
    }

    private void settle(CommandContext context, Waiting plan, Plan rest) {
        var at = rest.waitsAt().map(Plan.Step::kind);
        unwindings.goesOn(context, plan, at, at.map(WaitsFor::of));
    }

    /**
     * What is left of a plan, as things stand; for someone who may do more, perhaps all of it. Series without gaps are
     * asked only for what is made.
     */
    private Decision<Plan> rest(CommandContext context, Waiting plan, Person as) {
        var looked = rest(context, plan, as, new Placeholders());
        return looked.isRefused() || looked.get().now().isEmpty()
                ? looked
                : rest(
                        context,
                        plan,
                        as,
                        kind -> kind == DocumentKind.CREDIT_NOTE
                                ? writer.creditNoteNumber(context)
                                : writer.number(kind));
    }

    private Decision<Plan> rest(CommandContext context, Waiting plan, Person as, Function<DocumentKind, String> named) {
        var unwindRequest = new UnwindRequest(
                plan.asked().toIntent(),
                plan.asked().choices(rules.inForce(), plan.reasonCode()),
                as,
                plan.reason(),
                plan.reasonCode(),
                context.date(),
                named);
        if (plan.returnNumber().isPresent()) {
            var subject =
                    new DocumentRef(DocumentKind.RETURN, plan.returnNumber().get());
            var unwindContext = unwindContexts.of(subject);
            return Planner.rest(unwindContext, unwindRequest, Chain.returnOf(unwindContext.chains(), subject.number()));
        }
        var intent = plan.asked().toIntent();
        var unwindContext = unwindContexts.of(intent);
        if (intent instanceof Intent.TakeBackInvoice) {
            return Planner.refund(
                    unwindContext,
                    unwindRequest,
                    plan.refunds().stream()
                            .map(r -> new Effect.RefundGiven("", "", r.source(), r.order(), company.money(r.amount())))
                            .toList());
        }
        return Planner.plan(unwindContext, unwindRequest);
    }

    /** Somebody who may says yes to what a plan waits for. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void decide(CommandContext context, long id, long version) {
        var plan = locked(id, version);
        if (!context.person().decides()) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "approve a refund", context.person().role(), Person.DECIDING));
        }
        var rest = RefusedException.orThrow(rest(context, plan, context.person()));
        if (rest.now().isEmpty()) {
            RefusedException.where(rest.waitsAt().flatMap(Plan.Step::because));
        }
        if (effects(rest).isEmpty()) {
            throw new RefusedException(new NothingToDecide(plan.id()));
        }
        settle(context, plan, rest);
        writer.write(context.because(plan.reason()), effects(rest));
    }

    /** The plan waits for something that nobody can decide on. */
    @Code("not-awaiting")
    record NothingToDecide(long id) implements Refusal.WrongState {}

    /** Gives up the rest of a plan. Goods that were to come back may not come any more; what has happened stays. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void abandon(CommandContext context, long id, long version) {
        if (!context.person().decides()) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "cancel a plan", context.person().role(), Person.DECIDING));
        }
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for cancelling the rest"));
        }
        var plan = locked(id, version);
        unwindings.abandoned(context, plan, context.reason());
        if (plan.returnNumber().isPresent()) {
            var subject =
                    new DocumentRef(DocumentKind.RETURN, plan.returnNumber().get());
            var known = unwindContexts.of(subject).chains();
            var goods = Chain.returnOf(known, subject.number());
            if (goods.expectsMore()) {
                writer.write(
                        context, List.of(RefusedException.orThrow(Returning.withdraw(goods, Chain.credits(known)))));
            }
        }
    }

    private Waiting locked(long id, long version) {
        var plan = unwindings
                .waiting(id)
                .orElseThrow(
                        () -> new RefusedException(new CommonRefusal.NotFound("waiting plan", String.valueOf(id))));
        var subject = plan.returnNumber()
                .map(number -> new DocumentRef(DocumentKind.RETURN, number))
                .orElse(plan.asked().toIntent().subject());
        var orders = new ArrayList<>(unwindContexts.orders(subject));
        locks.customer(unwindContexts.customer(subject, orders));
        locks.orders(orders);
        var again = unwindings
                .waiting(id)
                .orElseThrow(
                        () -> new RefusedException(new CommonRefusal.NotFound("waiting plan", String.valueOf(id))));
        if (again.version() != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion("The plan", version, again.version()));
        }
        return again;
    }

    /** The books are open again: what waited for that goes on. */
    @Override
    @Transactional(propagation = Propagation.MANDATORY)
    public void periodOpened(CommandContext context) {
        for (var plan : unwindings.ofPeriod()) {
            var rest = rest(context, plan, plan.by());
            if (!rest.isRefused()) {
                settle(context, plan, rest.get());
                writer.write(
                        context.because(
                                "as planned by %s: %s".formatted(plan.by().username(), plan.reason())),
                        effects(rest.get()));
            }
        }
    }
}
