package app.euthyna.server.returns;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.returns.Unexpected;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Unexpected goods: recorded, and decided on. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class UnexpectedService {

    /** What the remark of a return takes. */
    private static final int REMARK = 2000;

    private final JdbcClient jdbc;
    private final Ids ids;
    private final Numbers numbers;
    private final MasterData masterData;
    private final CompanyRulesStore rules;
    private final ReturnsService returns;
    private final EffectWriter writer;

    UnexpectedService(
            JdbcClient jdbc,
            Ids ids,
            Numbers numbers,
            MasterData masterData,
            CompanyRulesStore rules,
            ReturnsService returns,
            EffectWriter writer) {
        this.jdbc = jdbc;
        this.ids = ids;
        this.numbers = numbers;
        this.masterData = masterData;
        this.rules = rules;
        this.returns = returns;
        this.writer = writer;
    }

    /**
     * What came.
     *
     * @param sender what the label says, where the customer is not known; may be empty
     * @param ofReturn the return that it came with, in place of what was expected; may be empty
     * @param site where it lies; the company's own store where it is empty
     */
    public record Came(
            Optional<String> customer,
            String sender,
            String ofReturn,
            String item,
            Quantity quantity,
            String site,
            String remark) {}

    /** Takes goods in; nothing is posted. */
    public String takeIn(CommandContext context, Came came) {
        var refusals = Unexpected.takingIn(came.quantity(), came.customer(), came.sender());
        if (!refusals.isEmpty()) {
            throw new RefusedException(refusals);
        }
        var number = numbers.next(DocumentKind.UNEXPECTED_GOODS);
        var goodsReturn = came.ofReturn().isEmpty()
                ? null
                : jdbc.sql("select id from goods_return where number = ?")
                        .param(came.ofReturn())
                        .query(Long.class)
                        .optional()
                        .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("return", came.ofReturn())));
        jdbc.sql("""
            insert into unexpected_goods (number, customer_id, sender, return_id, item_id, quantity, left_over,
                site_id, came_on, taken_by, remark, version)
            values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, 0)\
            """)
                .param(number)
                .param(came.customer().map(ids::customer).orElse(null))
                .param(came.sender())
                .param(goodsReturn)
                .param(ids.item(came.item()))
                .param(came.quantity().value())
                .param(came.quantity().value())
                .param(ids.site(came.site().isEmpty() ? masterData.defaultSite() : came.site()))
                .param(context.date())
                .param(context.person().username())
                .param(came.remark())
                .update();
        return number;
    }

    private record Kept(long id, Unexpected goods, LocalDate cameOn, String remark, long version) {}

    private Kept locked(String number, long version) {
        var kept = jdbc.sql("select u.id, c.code, i.code, u.left_over, u.came_on, u.remark, u.version from"
                        + " unexpected_goods u left join customer c on c.id = u.customer_id join item i on i.id ="
                        + " u.item_id where u.number = ? for update")
                .param(number)
                .query((r, n) -> new Kept(
                        r.getLong(1),
                        new Unexpected(
                                number,
                                Optional.ofNullable(r.getString(2)),
                                r.getString(3),
                                new Quantity(r.getBigDecimal(4))),
                        r.getObject(5, LocalDate.class),
                        r.getString(6),
                        r.getLong(7)))
                .optional()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("unexpected goods", number)));
        if (kept.version() != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion(number, version, kept.version()));
        }
        return kept;
    }

    /** Takes goods back on a return after all; answers the return. */
    public String admit(
            CommandContext context,
            String number,
            long version,
            List<Returning.OfDispatch> dispatched,
            String reasonCode) {
        var chains = returns.lockedOf(dispatched);
        var kept = locked(number, version);
        var quantity = Quantity.sum(
                dispatched.stream().map(Returning.OfDispatch::quantity).toList());
        var asked = new Returning.Asked(
                numbers.next(DocumentKind.RETURN),
                chains.iterator().next().order().customer(),
                context.date(),
                reasonCode,
                dispatched,
                List.of());
        var effects = RefusedException.orThrow(kept.goods()
                .admit(
                        new Unexpected.Decided(context.person(), quantity, context.reason()),
                        asked,
                        chains,
                        rules.inForce().returns()));
        var why = Texts.joined(
                "; ",
                "received as unexpected goods %s on %s".formatted(number, Figures.day(kept.cameOn())),
                context.reason(),
                kept.remark());
        writer.write(context.because(Texts.cut(why, REMARK)), effects);
        decided(
                context,
                kept,
                "ADMITTED",
                quantity,
                ((Effect.ReturnAuthorised) effects.get(0)).authorised().number());
        return asked.number();
    }

    /** Sends goods away, or scraps them: they were never the company's. */
    public void turnAway(CommandContext context, String number, long version, Unexpected.Away away, Quantity quantity) {
        var kept = locked(number, version);
        decided(
                context,
                kept,
                away.name(),
                RefusedException.orThrow(
                        kept.goods().turnAway(new Unexpected.Decided(context.person(), quantity, context.reason()))),
                null);
    }

    private void decided(CommandContext context, Kept kept, String kind, Quantity quantity, String goodsReturn) {
        jdbc.sql("insert into unexpected_decision (goods_id, kind, quantity, decided_on, decided_by, reason,"
                        + " return_id) values (?, ?, ?, ?, ?, ?, (select id from goods_return where number = ?))")
                .param(kept.id())
                .param(kind)
                .param(quantity.value())
                .param(context.date())
                .param(context.person().username())
                .param(context.reason())
                .param(goodsReturn)
                .update();
        jdbc.sql("update unexpected_goods set left_over = left_over - ?, version = version + 1 where id = ?")
                .params(quantity.value(), kept.id())
                .update();
    }
}
