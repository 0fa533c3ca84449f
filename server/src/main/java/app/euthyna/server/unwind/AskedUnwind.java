package app.euthyna.server.unwind;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.unwind.Choices;
import app.euthyna.core.unwind.Intent;
import app.euthyna.server.masterdata.CompanyRules;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;

/**
 * What should be undone, as it is asked for and kept.
 *
 * @param kind of the document that is undone
 * @param lines of that document; empty for all of it
 * @param money "refund" or "customer-credit"; null where that was not said
 * @param withdraw the goods of a return are not expected any more either
 * @param restockingPercent null for what the rules say
 */
public record AskedUnwind(
        DocumentKind kind,
        String number,
        String intent,
        List<Line> lines,
        String money,
        boolean withDispatch,
        boolean withdraw,
        BigDecimal restockingPercent) {

    /** A quantity of a line. */
    public record Line(int line, BigDecimal quantity) {}

    public AskedUnwind {
        lines = lines == null ? List.of() : List.copyOf(lines);
    }

    /** All of an intent over a document, with no choice made. */
    public static AskedUnwind of(DocumentKind kind, String number, String intent) {
        return new AskedUnwind(kind, number, intent, List.of(), null, false, false, null);
    }

    Intent toIntent() {
        var parts = lines.stream()
                .map(l -> new Intent.Part(l.line(), quantity(l.quantity())))
                .toList();
        var subject = new DocumentRef(kind, number);
        return switch (intent) {
            case "cancel-rest" -> new Intent.CancelRest(of(DocumentKind.ORDER), parts);
            case "cancel-order" -> new Intent.CancelOrder(of(DocumentKind.ORDER));
            case "take-back-invoice" -> new Intent.TakeBackInvoice(of(DocumentKind.INVOICE), withDispatch);
            case "take-back-dispatch" -> new Intent.TakeBackDispatch(of(DocumentKind.DISPATCH));
            case "take-goods-back" ->
                new Intent.TakeGoodsBack(
                        any(subject, DocumentKind.ORDER, DocumentKind.DISPATCH, DocumentKind.INVOICE), parts);
            case "give-money-back" ->
                new Intent.GiveMoneyBack(any(
                        subject,
                        DocumentKind.ORDER,
                        DocumentKind.DEPOSIT,
                        DocumentKind.PAYMENT,
                        DocumentKind.CREDIT_NOTE));
            default ->
                Intent.TakeBack.kindOf(intent)
                        .map(taken -> new Intent.TakeBack(any(subject, taken), withdraw))
                        .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("intent", intent)));
        };
    }

    private static Quantity quantity(BigDecimal given) {
        if (given == null || given.stripTrailingZeros().scale() > Quantity.DECIMALS) {
            throw new RefusedException(CommonRefusal.Incomplete.of("lines", "quantities with at most 3 decimals"));
        }
        return new Quantity(given);
    }

    private String of(DocumentKind wanted) {
        return any(new DocumentRef(kind, number), wanted).number();
    }

    private static DocumentRef any(DocumentRef subject, DocumentKind... wanted) {
        if (!List.of(wanted).contains(subject.kind())) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("kind", "a document that allows this; " + subject + " does not"));
        }
        return subject;
    }

    /** Where nothing else was asked for, what the company keeps back and grants for the reason. */
    Choices choices(CompanyRules rules, String reasonCode) {
        var to = switch (money == null ? "" : money) {
            case "" -> Optional.<Choices.MoneyTo>empty();
            case "refund" -> Optional.of(Choices.MoneyTo.REFUND);
            case "customer-credit" -> Optional.of(Choices.MoneyTo.CUSTOMER_CREDIT);
            default -> throw new RefusedException(CommonRefusal.Incomplete.of("money", "refund or customer-credit"));
        };
        var reason = rules.returns().reason(reasonCode);
        var percent =
                restockingPercent == null ? reason.feePercent(rules.unwind().restockingPercent()) : restockingPercent;
        if (percent.signum() < 0 || percent.compareTo(BigDecimal.valueOf(100)) > 0) {
            throw new RefusedException(
                    CommonRefusal.Incomplete.of("restockingPercent", "a percentage between 0 and 100"));
        }
        return new Choices(to, percent, reason.freight());
    }
}
