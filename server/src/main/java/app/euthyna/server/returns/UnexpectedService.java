package app.euthyna.server.returns;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.returns.Returning;
import app.euthyna.core.returns.Unexpected;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Quantity;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.time.LocalDate;
import java.util.List;
import java.util.Optional;
import org.hibernate.LockMode;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Unexpected goods: recorded, and decided on. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class UnexpectedService {

    /** What the remark of a return takes. */
    private static final int REMARK = 2000;

    private final UnexpectedQueries queries;
    private final Ids ids;
    private final MasterData masterData;
    private final CompanyRulesStore rules;
    private final ReturnsService returns;
    private final EffectWriter writer;

    UnexpectedService(
            UnexpectedQueries queries,
            Ids ids,
            MasterData masterData,
            CompanyRulesStore rules,
            ReturnsService returns,
            EffectWriter writer) {
        this.queries = queries;
        this.ids = ids;
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
        var number = writer.number(DocumentKind.UNEXPECTED_GOODS);
        var row = new UnexpectedGoodsEntity();
        row.number = number;
        row.customerId = came.customer().map(ids::customer).orElse(null);
        row.sender = came.sender();
        row.returnId = came.ofReturn().isEmpty() ? null : ids.goodsReturn(came.ofReturn());
        row.itemId = ids.item(came.item());
        row.quantity = came.quantity().value();
        row.leftOver = came.quantity().value();
        row.siteId = ids.site(came.site().isEmpty() ? masterData.defaultSite() : came.site());
        row.cameOn = context.date();
        row.takenBy = context.person().username();
        row.remark = came.remark();
        queries.session().insert(row);
        return number;
    }

    private record Kept(long id, Unexpected goods, LocalDate cameOn, String remark, long version) {}

    private Kept locked(String number, long version) {
        var row = queries.session()
                .get(UnexpectedGoodsEntity.class, ids.unexpectedGoods(number), LockMode.PESSIMISTIC_WRITE);
        var kept = new Kept(
                row.id,
                new Unexpected(
                        number,
                        Optional.ofNullable(row.customerId).map(ids::customerCode),
                        ids.itemCode(row.itemId),
                        new Quantity(row.leftOver)),
                row.cameOn,
                row.remark,
                row.version);
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
                writer.number(DocumentKind.RETURN),
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
        var row = new UnexpectedDecisionEntity();
        row.goodsId = kept.id();
        row.kind = kind;
        row.quantity = quantity.value();
        row.decidedOn = context.date();
        row.decidedBy = context.person().username();
        row.reason = context.reason();
        row.returnId = goodsReturn == null ? null : ids.goodsReturn(goodsReturn);
        queries.session().insert(row);
        queries.lessLeft(quantity.value(), kept.id());
    }
}
