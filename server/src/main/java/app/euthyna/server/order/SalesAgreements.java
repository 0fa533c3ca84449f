package app.euthyna.server.order;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.Recurrence;
import app.euthyna.core.order.SalesAgreement;
import app.euthyna.core.order.SalesAgreementRefusal;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Figures;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.PlatformRefusal;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.Objects;
import java.util.Optional;
import java.util.TreeMap;
import java.util.stream.Collectors;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Writes quotes, blanket orders and recurring orders, and makes orders from them. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class SalesAgreements {

    private final SalesAgreementStore store;
    private final Numbers numbers;
    private final Ids ids;
    private final Locks locks;
    private final AgreementQueries queries;
    private final OrderStarting starting;

    SalesAgreements(
            SalesAgreementStore store,
            Numbers numbers,
            Ids ids,
            Locks locks,
            AgreementQueries queries,
            OrderStarting starting) {
        this.starting = starting;
        this.locks = locks;
        this.store = store;
        this.numbers = numbers;
        this.ids = ids;
        this.queries = queries;
    }

    /**
     * What is written.
     *
     * @param content customer, PO, lines with their prices and details, as of an order
     */
    public record Written(
            OrderDraft content,
            LocalDate from,
            LocalDate until,
            Optional<Money> ceiling,
            Optional<Recurrence> recurrence,
            List<SalesAgreement.Call> schedule) {}

    /** Writes a new one and gives it the next number of its kind. */
    public String write(CommandContext context, SalesAgreement.Kind kind, Written written) {
        var number = numbers.next(DocumentKind.valueOf(kind.name()));
        var agreement = agreement(context, number, kind, 0, written);
        var row = new SalesAgreementEntity();
        row.number = number;
        row.kind = kind.name();
        row.state = "OPEN";
        row.customerId = ids.customer(agreement.customer());
        row.po = po(written);
        row.validFrom = agreement.from();
        row.validUntil = agreement.until();
        row.ceiling = agreement.ceiling().map(Money::amount).orElse(null);
        row.everyCount = agreement.recurrence().map(Recurrence::every).orElse(null);
        row.everyUnit = agreement.recurrence().map(r -> r.unit().name()).orElse(null);
        row.made = 0;
        row.nextDue = agreement.dueNext().orElse(null);
        row.net = agreement.net().amount();
        row.remark = remark(written);
        row.details = details(written);
        row.author = context.person().username();
        row.writtenOn = context.date();
        queries.session().insert(row);
        lines(row.id, agreement);
        note(context, row.id, "written");
        return number;
    }

    /** Changes it; what was called off stays called off, so a line can't fall below that. */
    public void change(CommandContext context, String number, long version, Written written) {
        var kept = seen(number, version);
        open(kept.agreement());
        var after = agreement(
                context, number, kept.agreement().kind(), kept.agreement().made(), written);
        if (!after.customer().equals(kept.agreement().customer())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("customer", "the customer it was entered for"));
        }
        var taken = store.taken(kept.id(), "");
        if (after.kind() == SalesAgreement.Kind.BLANKET_ORDER) {
            var refusals = new ArrayList<Refusal>();
            taken.quantities().forEach((no, quantity) -> {
                var granted = after.lines().stream()
                        .filter(line -> line.no() == no)
                        .map(SalesAgreement.Line::quantity)
                        .findFirst()
                        .orElse(Quantity.ZERO);
                if (quantity.exceeds(granted)) {
                    refusals.add(new SalesAgreementRefusal.MoreThanLeft(number, no, quantity, granted));
                }
            });
            if (!refusals.isEmpty()) {
                throw new RefusedException(refusals);
            }
        }
        var differences = differences(kept, after, written);
        if (differences.isEmpty()) {
            return;
        }
        queries.change(
                po(written),
                after.from(),
                after.until(),
                after.ceiling().map(Money::amount).orElse(null),
                after.recurrence().map(Recurrence::every).orElse(null),
                after.recurrence().map(r -> r.unit().name()).orElse(null),
                after.dueNext().orElse(null),
                after.net().amount(),
                remark(written),
                details(written),
                kept.id());
        queries.removeLines(kept.id());
        queries.removeOpenCalls(kept.id());
        lines(kept.id(), after);
        moved(kept);
        note(context, kept.id(), String.join("; ", differences));
    }

    /** Ends it: a quote is lost, the others end. */
    public void close(CommandContext context, String number, long version) {
        var kept = seen(number, version);
        open(kept.agreement());
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for ending it"));
        }
        var to = kept.agreement().kind() == SalesAgreement.Kind.QUOTE
                ? SalesAgreement.State.LOST
                : SalesAgreement.State.ENDED;
        queries.close(to.name(), kept.id());
        moved(kept);
        note(
                context,
                kept.id(),
                (to == SalesAgreement.State.LOST ? "lost: " : "ended: ")
                        + context.reason().strip());
    }

    /** A recurring order that is due is passed over this time. */
    public void skip(CommandContext context, String number, long version) {
        var kept = seen(number, version);
        open(kept.agreement());
        var due = due(kept.agreement());
        advance(kept);
        moved(kept);
        note(context, kept.id(), "skipped on " + due);
    }

    /**
     * Makes an order of it.
     *
     * @param asked quantities by line; empty for all of a quote or a recurring order, and for what is due of a blanket
     *     order
     * @param po of this order, or null for the one it was agreed under
     */
    public OrderView make(
            CommandContext context,
            String number,
            long version,
            Map<Integer, Quantity> asked,
            String po,
            boolean submit) {
        var kept = seen(number, version);
        var agreement = kept.agreement();
        var dueCalls = asked.isEmpty() && agreement.kind() == SalesAgreement.Kind.BLANKET_ORDER
                ? agreement.schedule().stream()
                        .filter(call -> !call.on().isAfter(context.date()))
                        .toList()
                : List.<SalesAgreement.Call>of();
        var wanted = asked.isEmpty() ? wanted(agreement, dueCalls) : asked;
        var taken = new TreeMap<>(
                RefusedException.orThrow(agreement.take(wanted, store.taken(kept.id(), ""), context.date())));
        var kind = agreement.kind() == SalesAgreement.Kind.BLANKET_ORDER ? OrderKind.CALL_OFF : OrderKind.STANDARD;
        var made = starting.make(
                context,
                new OrderDraft(
                        agreement.customer(),
                        po == null ? kept.po() : po,
                        kind,
                        null,
                        context.date(),
                        null,
                        kept.remark(),
                        null,
                        kept.details() == null ? null : OrderEntity.details(kept.details()),
                        lines(agreement, taken)),
                agreement,
                kept.id(),
                List.copyOf(taken.keySet()),
                submit);
        switch (agreement.kind()) {
            case QUOTE -> queries.ordered(kept.id());
            case RECURRING_ORDER -> {
                if (agreement.isDue(context.date())) {
                    advance(kept);
                }
            }
            case BLANKET_ORDER -> {
                dueCalls.forEach(call -> queries.called(ids.order(made.number()), kept.id(), call.on(), call.line()));
                queries.nextOpenCall(kept.id());
            }
        }
        moved(kept);
        note(context, kept.id(), "created order " + made.number());
        return made;
    }

    /** What is due of a blanket order, all of anything else. */
    private static Map<Integer, Quantity> wanted(SalesAgreement agreement, List<SalesAgreement.Call> dueCalls) {
        return agreement.kind() == SalesAgreement.Kind.BLANKET_ORDER
                ? dueCalls.stream()
                        .collect(Collectors.toMap(
                                SalesAgreement.Call::line, SalesAgreement.Call::quantity, Quantity::plus))
                : agreement.lines().stream()
                        .collect(Collectors.toMap(SalesAgreement.Line::no, SalesAgreement.Line::quantity));
    }

    private static List<OrderDraft.Line> lines(SalesAgreement agreement, Map<Integer, Quantity> taken) {
        return taken.entrySet().stream()
                .map(e -> {
                    var line = agreement.lines().stream()
                            .filter(l -> l.no() == e.getKey())
                            .findFirst()
                            .orElseThrow();
                    return new OrderDraft.Line(
                            null,
                            line.item(),
                            e.getValue().value(),
                            line.price().unit(),
                            line.price().discountPercent(),
                            null);
                })
                .toList();
    }

    private LocalDate due(SalesAgreement agreement) {
        return agreement
                .dueNext()
                .filter(day -> agreement.kind() == SalesAgreement.Kind.RECURRING_ORDER)
                .orElseThrow(() -> new RefusedException(
                        CommonRefusal.Incomplete.of("number", "a recurring order that is due again")));
    }

    private void advance(SalesAgreementStore.Kept kept) {
        var o = kept.agreement();
        var next = new SalesAgreement(
                o.number(),
                o.kind(),
                o.state(),
                o.customer(),
                o.from(),
                o.until(),
                o.ceiling(),
                o.recurrence(),
                o.made() + 1,
                o.currency(),
                o.lines(),
                o.schedule());
        queries.advance(next.made(), next.dueNext().orElse(null), kept.id());
    }

    private static void open(SalesAgreement agreement) {
        if (agreement.state() != SalesAgreement.State.OPEN) {
            throw new RefusedException(
                    new SalesAgreementRefusal.Closed(agreement.number(), agreement.kind(), agreement.state()));
        }
    }

    /** The customer is locked first, as for its orders: two who call off at once don't both take the last of it. */
    private SalesAgreementStore.Kept seen(String number, long version) {
        locks.customer(store.find(number).agreement().customer());
        var kept = store.find(number);
        if (kept.version() != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion(
                    "The " + kept.agreement().kind().words() + " " + number, version, kept.version()));
        }
        return kept;
    }

    private void moved(SalesAgreementStore.Kept kept) {
        queries.moveVersion(kept.id());
    }

    private void note(CommandContext context, long id, String sentence) {
        var row = new SalesAgreementChangeEntity();
        row.agreementId = id;
        row.changedOn = context.date();
        row.changedBy = context.person().username();
        row.sentence = Texts.cut(sentence, 8000);
        queries.session().insert(row);
    }

    private void lines(long id, SalesAgreement agreement) {
        agreement.lines().forEach(line -> {
            var row = new SalesAgreementLineEntity();
            row.agreementId = id;
            row.lineNo = line.no();
            row.itemCode = line.item();
            row.description = line.description();
            row.quantity = line.quantity().value();
            row.unitPrice = line.price().unit();
            row.discountPercent = line.price().discountPercent();
            queries.session().insert(row);
        });
        agreement.schedule().forEach(call -> {
            var row = new SalesAgreementCallEntity();
            row.agreementId = id;
            row.dueOn = call.on();
            row.lineNo = call.line();
            row.quantity = call.quantity().value();
            queries.session().insert(row);
        });
    }

    /** As it would be kept: prices and items completed as on an order. */
    private SalesAgreement agreement(
            CommandContext context, String number, SalesAgreement.Kind kind, int made, Written written) {
        if (written.until().isBefore(written.from())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("until", "a date on or after the first"));
        }
        if (kind == SalesAgreement.Kind.RECURRING_ORDER && written.recurrence().isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("every", "the recurrence"));
        }
        var order = starting.simulate(context, written.content());
        if (order.lines().isEmpty()
                || order.lines().stream()
                        .anyMatch(line ->
                                line.item().isEmpty() || !line.quantity().isPositive())) {
            throw new RefusedException(CommonRefusal.Incomplete.of(
                    "lines", "at least one line, each with an item and a quantity above zero"));
        }
        var lines = order.lines().stream()
                .map(l -> new SalesAgreement.Line(l.no(), l.item(), l.description(), l.quantity(), l.price()))
                .toList();
        var schedule = kind == SalesAgreement.Kind.BLANKET_ORDER ? written.schedule() : List.<SalesAgreement.Call>of();
        for (var call : schedule) {
            if (lines.stream().noneMatch(line -> line.no() == call.line())
                    || !call.quantity().isPositive()
                    || call.on().isBefore(written.from())
                    || call.on().isAfter(written.until())) {
                throw new RefusedException(CommonRefusal.Incomplete.of(
                        "schedule", "existing lines, quantities above zero and dates within its validity"));
            }
        }
        return new SalesAgreement(
                number,
                kind,
                SalesAgreement.State.OPEN,
                order.customer(),
                written.from(),
                written.until(),
                kind == SalesAgreement.Kind.BLANKET_ORDER ? written.ceiling() : Optional.empty(),
                kind == SalesAgreement.Kind.RECURRING_ORDER ? written.recurrence() : Optional.empty(),
                made,
                order.currency(),
                lines,
                schedule);
    }

    private static List<String> differences(SalesAgreementStore.Kept before, SalesAgreement after, Written written) {
        var differences = new ArrayList<String>();
        differ(differences, "PO", before.po(), po(written));
        differ(differences, "valid from", before.agreement().from(), after.from());
        differ(differences, "valid until", before.agreement().until(), after.until());
        differ(
                differences,
                "value",
                before.agreement().ceiling().map(Money::toString).orElse("none"),
                after.ceiling().map(Money::toString).orElse("none"));
        differ(
                differences,
                "recurrence",
                before.agreement().recurrence().map(Recurrence::words).orElse("none"),
                after.recurrence().map(Recurrence::words).orElse("none"));
        differ(differences, "remark", before.remark(), remark(written));
        differ(differences, "lines", said(before.agreement()), said(after));
        differ(differences, "schedule", scheduled(before.agreement()), scheduled(after));
        if (!Objects.equals(before.details(), details(written))) {
            differences.add("details changed");
        }
        return differences;
    }

    private static String said(SalesAgreement agreement) {
        return agreement.lines().stream()
                .map(l -> "%d: %s %s at %s"
                        .formatted(
                                l.no(),
                                l.quantity(),
                                l.item(),
                                l.price().unit().toPlainString()
                                        + (l.price().discountPercent().signum() == 0
                                                ? ""
                                                : " less "
                                                        + Figures.plain(
                                                                l.price().discountPercent()) + " %")))
                .collect(Collectors.joining(", "));
    }

    private static String scheduled(SalesAgreement agreement) {
        return agreement.schedule().stream()
                .map(c -> "%s %s of line %d".formatted(c.on(), c.quantity(), c.line()))
                .collect(Collectors.joining(", "));
    }

    private static void differ(List<String> differences, String field, Object before, Object after) {
        if (!before.equals(after)) {
            differences.add("%s from %s to %s"
                    .formatted(
                            field,
                            before.toString().isEmpty() ? "nothing" : before,
                            after.toString().isEmpty() ? "nothing" : after));
        }
    }

    private static String po(Written written) {
        return Texts.given(written.content().po());
    }

    private static String remark(Written written) {
        return written.content().remark() == null ? "" : written.content().remark();
    }

    private static String details(Written written) {
        return written.content().details() == null
                ? null
                : Records.write(written.content().details());
    }
}
