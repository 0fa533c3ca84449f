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
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Clock;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.stereotype.Component;

/** What was undone, and what of it still waits. */
@Component
class Unwindings {

    private final JdbcClient jdbc;
    private final Ids ids;
    private final Clock clock;

    Unwindings(JdbcClient jdbc, Ids ids, Clock clock) {
        this.jdbc = jdbc;
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
        var key = new GeneratedKeyHolder();
        var intent = asked.toIntent();
        var waits = plan.waitsAt();
        var goods = plan.steps().stream()
                .flatMap(step -> step.effects().stream())
                .filter(Effect.ReturnAuthorised.class::isInstance)
                .map(Effect.ReturnAuthorised.class::cast)
                .map(effect -> effect.authorised().number())
                .findFirst();
        jdbc.sql("""
            insert into unwinding (intent, subject_kind, subject_number, customer_id, words, reason_code, reason,
                undone_on, undone_at, undone_by, role, amount, asked, steps, state,
                waits_for, waits_at, return_number, refunds, touched_on, version) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 0)\
            """)
                .param(intent.code())
                .param(asked.kind().name())
                .param(asked.number())
                .param(ids.customer(customer))
                .param(Texts.cut(plan.words(), 400))
                .param(reasonCode)
                .param(context.reason())
                .param(context.date())
                .param(Timestamp.from(clock.instant()))
                .param(context.person().username())
                .param(context.person().role().name())
                .param(plan.value().amount())
                .param(Records.write(asked))
                .param(Records.write(plan.steps().stream()
                        .map(s -> new KeptStep(s.kind().code(), s.sentence()))
                        .toList()))
                .param(waits.isEmpty() ? State.DONE.name() : State.WAITING.name())
                .param(waits.map(s -> WaitsFor.of(s.kind()).name()).orElse(null))
                .param(waits.map(s -> s.kind().code()).orElse(null))
                .param(goods.orElse(null))
                .param(refunds(plan))
                .param(context.date())
                .update(key, "id");
        var id = key.getKeyAs(Long.class);
        orders.forEach(order -> jdbc.sql("insert into unwinding_order (unwinding_id, order_id) values (?, ?)")
                .params(id, ids.order(order))
                .update());
        return id;
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

    private static final String WAITING =
            "select id, asked, reason_code, reason, undone_by, role, return_number, refunds, version from unwinding"
                    + " where state = 'WAITING' and ";

    private static Waiting waiting(ResultSet r, int n) throws SQLException {
        return new Waiting(
                r.getLong(1),
                Records.read(r.getString(2), AskedUnwind.class),
                r.getString(3),
                r.getString(4),
                new Person(r.getString(5), Role.valueOf(r.getString(6))),
                Optional.ofNullable(r.getString(7)),
                List.of(Records.read(r.getString(8), KeptRefund[].class)),
                r.getLong(9));
    }

    List<Waiting> ofReturn(String number) {
        return jdbc.sql(WAITING + "return_number = ? order by id")
                .param(number)
                .query(Unwindings::waiting)
                .list();
    }

    List<Waiting> ofPeriod() {
        return jdbc.sql(WAITING + "waits_for = 'PERIOD' order by id")
                .query(Unwindings::waiting)
                .list();
    }

    Optional<Waiting> waiting(long id) {
        return jdbc.sql(WAITING + "id = ?").param(id).query(Unwindings::waiting).optional();
    }

    /** A plan has gone on, to where it waits now; or it is done. */
    void goesOn(CommandContext context, Waiting plan, Optional<Plan.Kind> at, Optional<WaitsFor> waitsFor) {
        jdbc.sql("update unwinding set state = ?, waits_for = ?, waits_at = ?, touched_on = ?, version ="
                        + " version + 1 where id = ?")
                .param(waitsFor.isEmpty() ? State.DONE.name() : State.WAITING.name())
                .param(waitsFor.map(Enum::name).orElse(null))
                .param(at.map(Plan.Kind::code).orElse(null))
                .param(context.date())
                .param(plan.id())
                .update();
    }

    void abandoned(CommandContext context, Waiting plan, String why) {
        jdbc.sql("update unwinding set state = 'ABANDONED', waits_for = null, touched_on = ?, ended_by = ?,"
                        + " ended_why = ?, version = version + 1 where id = ?")
                .params(context.date(), context.person().username(), Texts.cut(why, 2000), plan.id())
                .update();
    }
}
