package app.euthyna.server.masterdata;

import app.euthyna.core.check.CheckPolicy;
import app.euthyna.core.check.PoPlaces;
import app.euthyna.core.check.PoPolicy;
import app.euthyna.core.order.EntryRules;
import app.euthyna.core.order.OrderKind;
import app.euthyna.core.returns.ReturnPolicy;
import app.euthyna.core.shared.Dating;
import app.euthyna.server.platform.DecimalMark;
import java.util.EnumSet;
import java.util.Set;

/**
 * What the company has published for all customers: how checks weigh, their figures, its PO policy and where it looks
 * for numbers, what it asks of every order, which kinds of order may be billed before their goods leave, how things are
 * undone, what may come back, and how far back anybody may date.
 *
 * @param limits up to which amounts roles act on their own word
 * @param receivables what is written off, and what a dispute keeps from being dunned
 * @param daysBack days; further back only the finance lead dates, for a reason
 * @param decimalMark how figures are typed on the screens; sent and shown they have a point
 */
public record CompanyRules(
        CheckPolicy checks,
        PoPolicy po,
        PoPlaces places,
        EntryRules entry,
        Set<OrderKind> billedAhead,
        UnwindRules unwind,
        ReturnPolicy returns,
        Limits limits,
        ReceivablesRules receivables,
        Integer daysBack,
        DecimalMark decimalMark) {

    private static final Set<OrderKind> AHEAD = EnumSet.of(OrderKind.STANDARD, OrderKind.DIRECT, OrderKind.CALL_OFF);

    /** Rules that were kept before there were some of these say nothing of them. */
    public CompanyRules {
        billedAhead = Set.copyOf(billedAhead == null ? AHEAD : billedAhead);
        unwind = unwind == null ? UnwindRules.STANDARD : unwind;
        returns = returns == null ? ReturnPolicy.STANDARD : returns;
        limits = limits == null ? Limits.ofOne(unwind.refundLimit()) : limits;
        receivables = receivables == null ? ReceivablesRules.STANDARD : receivables;
        daysBack = daysBack == null ? Dating.DAYS_BACK : daysBack;
        decimalMark = decimalMark == null ? DecimalMark.POINT : decimalMark;
    }

    /** Of a company without rules of its own. */
    public static final CompanyRules STANDARD = standard(Limits.NONE);

    /** Of a company that begins: nobody but the finance lead acts without a limit until it says so. */
    public static final CompanyRules OF_A_NEW_COMPANY = standard(Limits.OF_A_NEW_COMPANY);

    private static CompanyRules standard(Limits limits) {
        return new CompanyRules(
                CheckPolicy.STANDARD,
                PoPolicy.STANDARD,
                PoPlaces.EVERYWHERE,
                EntryRules.NONE,
                AHEAD,
                UnwindRules.STANDARD,
                ReturnPolicy.STANDARD,
                limits,
                ReceivablesRules.STANDARD,
                Dating.DAYS_BACK,
                DecimalMark.POINT);
    }
}
