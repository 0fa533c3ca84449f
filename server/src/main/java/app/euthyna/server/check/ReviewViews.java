package app.euthyna.server.check;

import app.euthyna.core.check.CustomerPosition;
import app.euthyna.core.check.Evidence;
import app.euthyna.core.check.Finding;
import app.euthyna.core.check.Outlook;
import app.euthyna.core.check.PoEvidence;
import app.euthyna.core.check.PoUse;
import app.euthyna.core.check.PriceEvidence;
import app.euthyna.core.check.RobustScore;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Price;
import app.euthyna.server.masterdata.PersonToCall;
import app.euthyna.server.order.OrderView;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.LocalDate;
import java.time.format.DateTimeFormatter;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Optional;
import java.util.stream.Collectors;
import java.util.stream.Stream;

/** How findings, positions and orders under review are shown. */
final class ReviewViews {

    private ReviewViews() {}

    /** A document with its share of a figure. */
    record DocumentAmountView(String kind, String number, BigDecimal amount) {}

    /** One term of a formula with the documents behind it. */
    record TermView(String label, String sign, BigDecimal amount, List<DocumentAmountView> documents) {}

    /** An earlier use of a PO number. */
    record MatchView(
            String kind, String order, String po, LocalDate on, BigDecimal net, List<String> invoices, String place) {}

    /** What is wrong with one line. */
    record LineFact(int line, String item, String description, String sentence) {}

    record FindingView(
            String check,
            String title,
            String severity,
            String state,
            String brief,
            String sentence,
            LocalDate since,
            @Nullable String waivedBy,
            @Nullable LocalDate waivedOn,
            @Nullable String waiverReason,
            List<TermView> formula,
            @Nullable BigDecimal result,
            @Nullable BigDecimal limit,
            @Nullable BigDecimal excess,
            List<MatchView> matches,
            List<LineFact> lines,
            List<String> facts) {}

    record LineFlowView(
            int no,
            BigDecimal ordered,
            BigDecimal cancelled,
            BigDecimal reserved,
            BigDecimal waiting,
            BigDecimal staged,
            BigDecimal dispatched,
            BigDecimal returned,
            BigDecimal billed,
            BigDecimal credited,
            BigDecimal toShip,
            BigDecimal toBill) {}

    record PositionView(
            List<TermView> terms,
            BigDecimal exposure,
            @Nullable BigDecimal limit) {}

    record HistoryView(LocalDate on, String by, String kind, String number, String sentence) {}

    record DocumentView(
            String kind,
            String number,
            String state,
            LocalDate on,
            @Nullable BigDecimal amount,
            long version) {}

    record SheetView(
            OrderView order,
            String sentence,
            List<FindingView> findings,
            List<LineFlowView> flows,
            PositionView position,
            PersonToCall call,
            List<DocumentView> documents,
            List<HistoryView> history,
            @Nullable Clearance.RequestView approval,
            List<Clearance.ActionView> actions) {}

    /** Free stock of an item at a store. */
    record AtStore(String site, BigDecimal free) {}

    /** A line that free stock does not cover, and what other stores have free of its item. */
    record ShortageView(int line, BigDecimal covered, BigDecimal waiting, List<AtStore> elsewhere) {}

    record DryRunView(
            OrderView order,
            Outlook outlook,
            String sentence,
            List<FindingView> findings,
            List<String> approval,
            PositionView position,
            List<ShortageView> shortages) {}

    record ReviewRow(
            String number,
            String customer,
            String customerName,
            String state,
            BigDecimal gross,
            LocalDate requestedOn,
            LocalDate since,
            List<ReasonView> reasons) {}

    record ReasonView(String check, String severity, String brief) {}

    record ReviewPage(
            List<ReviewRow> rows,
            @Nullable String next,
            long held,
            long awaiting,
            long flagged,
            BigDecimal value,
            List<ReasonCount> reasons) {}

    /** How many orders of the list have an open finding of a check. */
    record ReasonCount(String check, String title, long orders) {}

    static FindingView finding(Finding finding) {
        var evidence = shown(finding);
        BigDecimal result = null;
        BigDecimal limit = null;
        BigDecimal excess = null;
        if (evidence instanceof Evidence.OverLimit over) {
            result = over.exposure().amount();
            limit = over.limit().amount();
            excess = over.excess().amount();
        } else if (evidence instanceof PoEvidence.PoCeilingPassed passed) {
            result = passed.together().amount();
            limit = passed.ceiling().amount();
            excess = passed.together().minus(passed.ceiling()).amount();
        }
        var waiver = finding.waiver();
        return new FindingView(
                finding.check().code(),
                finding.check().title(),
                finding.severity().name(),
                finding.state().name(),
                evidence.brief(),
                evidence.sentence(),
                finding.since(),
                waiver.map(Finding.Waiver::by).orElse(null),
                waiver.map(Finding.Waiver::on).orElse(null),
                waiver.map(Finding.Waiver::reason).orElse(null),
                termsOf(evidence),
                result,
                limit,
                excess,
                matches(evidence),
                lines(evidence),
                facts(evidence));
    }

    /** The sums that it comes from. */
    private static List<TermView> termsOf(Evidence evidence) {
        if (evidence instanceof Evidence.OverLimit over) {
            return terms(over.position(), Optional.of(over.thisOrder()));
        }
        if (evidence instanceof Evidence.InvoicesOverdue overdue) {
            return List.of(new TermView(
                    "overdue",
                    "+",
                    overdue.together().amount(),
                    overdue.invoices().stream()
                            .map(i -> new DocumentAmountView(
                                    "INVOICE", i.number(), i.open().amount()))
                            .toList()));
        }
        return List.of();
    }

    /** Documents with the same PO. */
    private static List<MatchView> matches(Evidence evidence) {
        if (evidence instanceof PoEvidence.PoMet met) {
            return met.matches().stream()
                    .map(m -> match(m.kind().name(), m.use()))
                    .toList();
        }
        if (evidence instanceof PoEvidence.PoCeilingPassed passed) {
            return passed.uses().stream().map(use -> match("COUNTED", use)).toList();
        }
        return List.of();
    }

    /** Figures in words that are of no line. */
    private static List<String> facts(Evidence evidence) {
        if (evidence instanceof Evidence.QuotaPassed passed) {
            return passed.quotas().stream()
                    .map(p -> "%s for %s %s, %s to %s: used %s + asked %s = %s, granted %s"
                            .formatted(
                                    p.quota().item(),
                                    p.quota().scope().words(),
                                    p.quota().key(),
                                    words(p.quota().from()),
                                    words(p.quota().to()),
                                    p.quota().used(),
                                    p.asked(),
                                    p.quota().used().plus(p.asked()),
                                    p.quota().granted()))
                    .toList();
        }
        if (evidence instanceof Evidence.Unusual unusual) {
            return unusual
                    .value()
                    .map(v -> "net value against %d earlier orders: %s"
                            .formatted(unusual.orders(), formula(v, unusual.limit())))
                    .stream()
                    .toList();
        }
        return List.of();
    }

    /** What is wrong with lines, each in words. */
    private static List<LineFact> lines(Evidence evidence) {
        if (evidence instanceof PriceEvidence.BelowFloor below) {
            return belowFloor(below);
        }
        if (evidence instanceof Evidence.LinesNamed named) {
            return named.lines().stream()
                    .map(l -> new LineFact(l.line(), l.item(), l.description(), named.brief()))
                    .toList();
        }
        if (evidence instanceof PriceEvidence.ThinMargin thin) {
            return thin(thin);
        }
        if (evidence instanceof Evidence.WrongDates dates) {
            return dates.lines().stream()
                    .map(l -> new LineFact(
                            l.line(),
                            l.item(),
                            l.description(),
                            "requested %s, possible from %s".formatted(words(l.requestedOn()), words(l.earliest()))))
                    .toList();
        }
        if (evidence instanceof Evidence.Unusual unusual) {
            return unusual.lines().stream()
                    .map(l -> new LineFact(l.line(), l.item(), l.description(), formula(l.quantity(), unusual.limit())))
                    .toList();
        }
        if (evidence instanceof PriceEvidence.WrongPrice wrong) {
            return wrong.lines().stream()
                    .map(l -> new LineFact(
                            l.line(),
                            l.item(),
                            l.description(),
                            "priced at " + Figures.price(new BigDecimal(l.unitPrice()))))
                    .toList();
        }
        if (evidence instanceof Evidence.Unlicensed unlicensed) {
            return unlicensed.gaps().stream().map(ReviewViews::gap).toList();
        }
        if (evidence instanceof Evidence.StockShortage shortOf) {
            return shortOf.lines().stream()
                    .map(l -> new LineFact(
                            l.line(),
                            l.item(),
                            l.description(),
                            "%s to ship, %s reserved, %s waiting".formatted(l.toShip(), l.covered(), l.waiting())))
                    .toList();
        }
        return List.of();
    }

    private static List<LineFact> belowFloor(PriceEvidence.BelowFloor below) {
        return Stream.concat(
                        below.lines().stream()
                                .map(l -> new LineFact(
                                        l.line(),
                                        l.item(),
                                        l.description(),
                                        "at %s after discount, floor %s, %s below"
                                                .formatted(
                                                        Figures.price(l.given()),
                                                        Figures.price(l.floor()),
                                                        Figures.price(l.floor().subtract(l.given()))))),
                        below.discounts().stream()
                                .map(l -> new LineFact(
                                        l.line(),
                                        l.item(),
                                        l.description(),
                                        "%s %% off, %s may give %s %%"
                                                .formatted(
                                                        Figures.plain(l.given()),
                                                        l.role().words(),
                                                        Figures.plain(l.most())))))
                .toList();
    }

    private static List<LineFact> thin(PriceEvidence.ThinMargin thin) {
        return thin.lines().stream()
                .map(l -> new LineFact(
                        l.line(),
                        l.item(),
                        l.description(),
                        "(%s \u2212 %s) \u00f7 %1$s = %s %%, at least %s %%"
                                .formatted(
                                        Figures.price(l.given()),
                                        Figures.price(l.cost().setScale(Price.DECIMALS, RoundingMode.HALF_UP)),
                                        Figures.grouped(l.marginPercent()),
                                        Figures.plain(thin.leastPercent()))))
                .toList();
    }

    /** What whoever is signed in may read of a finding. */
    static Evidence shown(Finding finding) {
        return ReadBy.Group.COSTS.isRead()
                ? finding.evidence()
                : finding.evidence().withoutCosts();
    }

    /** The robust score with its figures. */
    private static String formula(RobustScore score, BigDecimal limit) {
        return "0.6745 \u00d7 (%s \u2212 median %s) \u00f7 %s = %s, limit %s"
                .formatted(
                        Figures.grouped(score.figure()),
                        Figures.grouped(score.median()),
                        Figures.grouped(score.deviation()),
                        Figures.grouped(score.score()),
                        Figures.plain(limit));
    }

    private static LineFact gap(Evidence.Unlicensed.LicenceGap gap) {
        var licence = gap.licence();
        var words = switch (licence.answer()) {
            case NO_LICENCE -> "needs class %s; the customer has no licence".formatted(licence.licenceClass());
            case NOT_FOUND ->
                "needs class %s; licence %s: not found in the register"
                        .formatted(licence.licenceClass(), licence.number());
            case NO_ANSWER ->
                "needs class %s; licence %s: the register did not answer"
                        .formatted(licence.licenceClass(), licence.number());
            case FOUND ->
                "needs class %s; licence %s was valid to %s: lapsed"
                        .formatted(licence.licenceClass(), licence.number(), licence.validTo());
        };
        return new LineFact(gap.line(), gap.item(), gap.description(), words);
    }

    private static MatchView match(String kind, PoUse use) {
        return new MatchView(
                kind,
                use.order(),
                use.po(),
                use.on(),
                use.net().amount(),
                use.invoices(),
                use.place().name());
    }

    static List<TermView> terms(CustomerPosition position, Optional<Money> thisOrder) {
        var terms = new ArrayList<TermView>();
        terms.add(term("unpaid", "+", position.unpaid()));
        terms.add(term("shipped, not billed", "+", position.dispatchedNotInvoiced()));
        terms.add(term("cleared, not shipped", "+", position.clearedNotDispatched()));
        thisOrder.ifPresent(amount -> terms.add(new TermView("this order", "+", amount.amount(), List.of())));
        terms.add(term("deposits and credit", "\u2212", position.unapplied()));
        return terms;
    }

    private static TermView term(String label, String sign, CustomerPosition.Term term) {
        return new TermView(
                label,
                sign,
                term.sum().amount(),
                term.documents().stream()
                        .map(d -> new DocumentAmountView(
                                d.document().kind().name(),
                                d.document().number(),
                                d.amount().amount()))
                        .toList());
    }

    /** One sentence that says why the order stands where it does. */
    static String sentence(String state, List<Finding> findings, Clearance.RequestView approval) {
        if (state.equals("DRAFT") && approval != null && approval.state().equals("SENT_BACK")) {
            return "Sent back on %s by %s: %s. Change it and submit it again."
                    .formatted(words(approval.closedOn()), approval.closedBy(), approval.closing());
        }
        if (state.equals("AWAITING_APPROVAL") && approval != null) {
            var cautions = joined(findings, false);
            return "Waits for %s since %s: %s.%s"
                    .formatted(
                            approval.waitsFor(),
                            words(approval.askedOn()),
                            String.join("; and ", approval.reasons()),
                            cautions.isEmpty() ? "" : " Also: " + cautions + ".");
        }
        var stops = joined(findings, true);
        var cautions = joined(findings, false);
        if (stops.isEmpty() && cautions.isEmpty()) {
            return switch (state) {
                case "CLEARED" -> "Cleared.";
                case "DRAFT" -> "Draft, not submitted yet.";
                default ->
                    state.charAt(0)
                            + state.substring(1).toLowerCase(Locale.ROOT).replace('_', ' ') + ".";
            };
        }
        var since = findings.stream()
                .filter(Finding::isOpen)
                .map(Finding::since)
                .min(LocalDate::compareTo)
                .orElseThrow();
        var text = stops.isEmpty() ? "" : "Held since %s: %s.".formatted(words(since), stops);
        return (text
                        + (cautions.isEmpty()
                                ? ""
                                : (text.isEmpty() ? "Flagged since " + words(since) + ": " : " Also: ") + cautions
                                        + "."))
                .strip();
    }

    private static String joined(List<Finding> findings, boolean stops) {
        return findings.stream()
                .filter(f -> f.isOpen() && f.holds() == stops)
                .map(f -> shown(f).sentence())
                .collect(Collectors.joining("; and "));
    }

    private static String words(LocalDate date) {
        return date.format(DateTimeFormatter.ofPattern("d MMM yyyy", Locale.ENGLISH));
    }
}
