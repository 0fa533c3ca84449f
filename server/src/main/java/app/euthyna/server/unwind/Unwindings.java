package app.euthyna.server.unwind;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import app.euthyna.core.unwind.Plan;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.Texts;
import java.math.BigDecimal;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Component;

/** What was undone, and what of it still waits. */
@Component
class Unwindings {

    private final UnwindQueries queries;
    private final Ids ids;
    private final Clock clock;

    Unwindings(UnwindQueries queries, Ids ids, Clock clock) {
        this.queries = queries;
        this.ids = ids;
        this.clock = clock;
    }

    /** Whether something is left to do. */
    enum State {
        DONE,
        WAITING,
        ABANDONED
    }

    /** What a plan waits for. */
    enum WaitsFor {
        /** Goods to come back. */
        GOODS,
        /** Goods to be inspected. */
        INSPECTION,
        /** The finance lead to decide on money. */
        DECISION,
        /** The period to be opened again. */
        PERIOD;

        static WaitsFor of(Plan.Kind kind) {
            return switch (kind) {
                case RECEIVE_GOODS -> GOODS;
                case INSPECT_GOODS -> INSPECTION;
                default -> DECISION;
            };
        }
    }

    /** A step as it was planned. */
    record KeptStep(String kind, String sentence) {}

    /** Money that is to go back once someone has agreed. */
    record KeptRefund(DocumentKind kind, String number, String order, BigDecimal amount) {
        DocumentRef source() {
            return new DocumentRef(kind, number);
        }
    }

    /** A plan that waits. */
    record Waiting(
            long id,
            AskedUnwind asked,
            String reasonCode,
            String reason,
            Person by,
            Optional<String> returnNumber,
            List<KeptRefund> refunds,
            long version) {}

    long keep(
            CommandContext context,
            AskedUnwind asked,
            String reasonCode,
            Plan plan,
            String customer,
            List<String> orders) {
        var intent = asked.toIntent();
        var waits = plan.waitsAt();
        var goods = plan.steps().stream()
                .flatMap(step -> step.effects().stream())
                .filter(Effect.ReturnAuthorised.class::isInstance)
                .map(Effect.ReturnAuthorised.class::cast)
                .map(effect -> effect.authorised().number())
                .findFirst();
        var row = new UnwindingEntity();
        row.intent = intent.code();
        row.subjectKind = asked.kind().name();
        row.subjectNumber = asked.number();
        row.customerId = ids.customer(customer);
        row.words = Texts.cut(plan.words(), 400);
        row.reasonCode = reasonCode;
        row.reason = context.reason();
        row.undoneOn = context.date();
        row.undoneAt = clock.instant();
        row.undoneBy = context.person().username();
        row.role = context.person().role().name();
        row.amount = plan.value().amount();
        row.asked = Records.write(asked);
        row.steps = Records.write(plan.steps().stream()
                .map(s -> new KeptStep(s.kind().code(), s.sentence()))
                .toList());
        row.state = waits.isEmpty() ? State.DONE.name() : State.WAITING.name();
        row.waitsFor = waits.map(s -> WaitsFor.of(s.kind()).name()).orElse(null);
        row.waitsAt = waits.map(s -> s.kind().code()).orElse(null);
        row.returnNumber = goods.orElse(null);
        row.refunds = refunds(plan);
        row.touchedOn = context.date();
        queries.session().insert(row);
        orders.forEach(order -> {
            var touched = new UnwindingOrderEntity();
            touched.unwindingId = row.id;
            touched.orderId = ids.order(order);
            queries.session().insert(touched);
        });
        return row.id;
    }

    /**
     * Money of a step that waits for someone's word and comes last; of a return's credit notes it is worked out when
     * they are there.
     */
    private static String refunds(Plan plan) {
        return Records.write(
                plan
                        .waitsAt()
                        .filter(step -> step.kind() == Plan.Kind.REFUND)
                        .map(Plan.Step::effects)
                        .orElse(List.of())
                        .stream()
                        .filter(Effect.RefundGiven.class::isInstance)
                        .map(Effect.RefundGiven.class::cast)
                        .map(r -> new KeptRefund(
                                r.source().kind(),
                                r.source().number(),
                                r.order(),
                                r.amount().amount()))
                        .toList());
    }

    private static Waiting waiting(UnwindingEntity row) {
        return new Waiting(
                row.id,
                Records.read(row.asked, AskedUnwind.class),
                row.reasonCode,
                row.reason,
                new Person(row.undoneBy, Role.valueOf(row.role)),
                Optional.ofNullable(row.returnNumber),
                List.of(Records.read(row.refunds, KeptRefund[].class)),
                row.version);
    }

    List<Waiting> ofReturn(String number) {
        return queries.waitingForReturn(number).stream()
                .map(Unwindings::waiting)
                .toList();
    }

    List<Waiting> ofPeriod() {
        return queries.waitingForPeriod().stream().map(Unwindings::waiting).toList();
    }

    Optional<Waiting> waiting(long id) {
        return queries.waiting(id).map(Unwindings::waiting);
    }

    /** A plan has gone on, to where it waits now; or it is done. */
    void goesOn(CommandContext context, Waiting plan, Optional<Plan.Kind> at, Optional<WaitsFor> waitsFor) {
        queries.goesOn(
                waitsFor.isEmpty() ? State.DONE.name() : State.WAITING.name(),
                waitsFor.map(Enum::name).orElse(null),
                at.map(Plan.Kind::code).orElse(null),
                context.date(),
                plan.id());
    }

    void abandoned(CommandContext context, Waiting plan, String why) {
        queries.abandoned(context.date(), context.person().username(), Texts.cut(why, 2000), plan.id());
    }
}
