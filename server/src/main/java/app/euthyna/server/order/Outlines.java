package app.euthyna.server.order;

import app.euthyna.core.order.OrderKind;
import app.euthyna.core.order.Outline;
import app.euthyna.core.order.OutlineRefusal;
import app.euthyna.core.order.Rhythm;
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
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Writes quotes, blanket orders and recurring orders, and makes orders from them. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class Outlines {

    private final OutlineStore store;
    private final OrderService orders;
    private final Numbers numbers;
    private final Ids ids;
    private final Locks locks;
    private final JdbcClient jdbc;

    Outlines(OutlineStore store, OrderService orders, Numbers numbers, Ids ids, Locks locks, JdbcClient jdbc) {
        this.locks = locks;
        this.store = store;
        this.orders = orders;
        this.numbers = numbers;
        this.ids = ids;
        this.jdbc = jdbc;
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
            Optional<Rhythm> rhythm,
            List<Outline.Call> schedule) {}

    /** Writes a new one and gives it the next number of its kind. */
    public String write(CommandContext context, Outline.Kind kind, Written written) {
        var number = numbers.next(DocumentKind.valueOf(kind.name()));
        var outline = outline(context, number, kind, 0, written);
        jdbc.sql("""
            insert into outline (number, kind, state, customer_id, po, valid_from, valid_until, ceiling, every_count,
                every_unit, made, next_due, net, remark,
                details, author, written_on, version) values (?, ?, 'OPEN', ?, ?, ?, ?, ?, ?, ?, 0, ?, ?, ?, ?, ?, ?, 0)\
            """)
                .param(number)
                .param(kind.name())
                .param(ids.customer(outline.customer()))
                .param(po(written))
                .param(outline.from())
                .param(outline.until())
                .param(outline.ceiling().map(Money::amount).orElse(null))
                .param(outline.rhythm().map(Rhythm::every).orElse(null))
                .param(outline.rhythm().map(r -> r.unit().name()).orElse(null))
                .param(outline.dueNext().orElse(null))
                .param(outline.net().amount())
                .param(remark(written))
                .param(details(written))
                .param(context.person().username())
                .param(context.date())
                .update();
        var id = store.find(number).id();
        lines(id, outline);
        note(context, id, "written");
        return number;
    }

    /** Changes it; what was called off stays called off, so a line can't fall below that. */
    public void change(CommandContext context, String number, long version, Written written) {
        var kept = seen(number, version);
        open(kept.outline());
        var after =
                outline(context, number, kept.outline().kind(), kept.outline().made(), written);
        if (!after.customer().equals(kept.outline().customer())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("customer", "the customer that it was written for"));
        }
        var taken = store.taken(kept.id(), "");
        if (after.kind() == Outline.Kind.BLANKET_ORDER) {
            var refusals = new ArrayList<Refusal>();
            taken.quantities().forEach((no, quantity) -> {
                var granted = after.lines().stream()
                        .filter(line -> line.no() == no)
                        .map(Outline.Line::quantity)
                        .findFirst()
                        .orElse(Quantity.ZERO);
                if (quantity.exceeds(granted)) {
                    refusals.add(new OutlineRefusal.MoreThanLeft(number, no, quantity, granted));
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
        jdbc.sql("""
            update outline set po = ?, valid_from = ?, valid_until = ?, ceiling = ?, every_count = ?, every_unit = ?,
                next_due = ?, net = ?, remark = ?, details = ?
            where id = ?\
            """)
                .param(po(written))
                .param(after.from())
                .param(after.until())
                .param(after.ceiling().map(Money::amount).orElse(null))
                .param(after.rhythm().map(Rhythm::every).orElse(null))
                .param(after.rhythm().map(r -> r.unit().name()).orElse(null))
                .param(after.dueNext().orElse(null))
                .param(after.net().amount())
                .param(remark(written))
                .param(details(written))
                .param(kept.id())
                .update();
        jdbc.sql("delete from outline_line where outline_id = ?")
                .param(kept.id())
                .update();
        jdbc.sql("delete from outline_call where outline_id = ? and order_id is null")
                .param(kept.id())
                .update();
        lines(kept.id(), after);
        moved(kept);
        note(context, kept.id(), String.join("; ", differences));
    }

    /** Ends it: a quote is lost, the others end. */
    public void close(CommandContext context, String number, long version) {
        var kept = seen(number, version);
        open(kept.outline());
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "why it ends"));
        }
        var to = kept.outline().kind() == Outline.Kind.QUOTE ? Outline.State.LOST : Outline.State.ENDED;
        jdbc.sql("update outline set state = ?, next_due = null where id = ?")
                .params(to.name(), kept.id())
                .update();
        moved(kept);
        note(
                context,
                kept.id(),
                (to == Outline.State.LOST ? "lost: " : "ended: ")
                        + context.reason().strip());
    }

    /** A recurring order that is due is passed over this time. */
    public void skip(CommandContext context, String number, long version) {
        var kept = seen(number, version);
        open(kept.outline());
        var due = due(kept.outline());
        advance(kept);
        moved(kept);
        note(context, kept.id(), "passed over on " + due);
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
            boolean handIn) {
        var kept = seen(number, version);
        var outline = kept.outline();
        var dueCalls = asked.isEmpty() && outline.kind() == Outline.Kind.BLANKET_ORDER
                ? outline.schedule().stream()
                        .filter(call -> !call.on().isAfter(context.date()))
                        .toList()
                : List.<Outline.Call>of();
        var wanted = !asked.isEmpty()
                ? asked
                : outline.kind() == Outline.Kind.BLANKET_ORDER
                        ? dueCalls.stream()
                                .collect(Collectors.toMap(Outline.Call::line, Outline.Call::quantity, Quantity::plus))
                        : outline.lines().stream().collect(Collectors.toMap(Outline.Line::no, Outline.Line::quantity));
        var taken = new TreeMap<>(
                RefusedException.unless(outline.take(wanted, store.taken(kept.id(), ""), context.date())));
        var lines = taken.entrySet().stream()
                .map(e -> {
                    var line = outline.lines().stream()
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
        var kind = outline.kind() == Outline.Kind.BLANKET_ORDER ? OrderKind.CALL_OFF : OrderKind.STANDARD;
        var made = orders.make(
                context,
                new OrderDraft(
                        outline.customer(),
                        po == null ? kept.po() : po,
                        kind,
                        null,
                        context.date(),
                        null,
                        kept.remark(),
                        null,
                        kept.details() == null ? null : OrderEntity.details(kept.details()),
                        lines),
                outline,
                kept.id(),
                List.copyOf(taken.keySet()),
                handIn);
        switch (outline.kind()) {
            case QUOTE ->
                jdbc.sql("update outline set state = 'ORDERED' where id = ?")
                        .param(kept.id())
                        .update();
            case RECURRING_ORDER -> {
                if (outline.isDue(context.date())) {
                    advance(kept);
                }
            }
            case BLANKET_ORDER -> {
                dueCalls.forEach(call -> jdbc.sql(
                                "update outline_call set order_id = ? where outline_id = ? and due_on = ? and line_no"
                                        + " = ?")
                        .params(ids.order(made.number()), kept.id(), call.on(), call.line())
                        .update());
                jdbc.sql("update outline set next_due = (select min(due_on) from outline_call where outline_id"
                                + " = ? and order_id is null) where id = ?")
                        .params(kept.id(), kept.id())
                        .update();
            }
        }
        moved(kept);
        note(context, kept.id(), "made order " + made.number());
        return made;
    }

    private LocalDate due(Outline outline) {
        return outline.dueNext()
                .filter(day -> outline.kind() == Outline.Kind.RECURRING_ORDER)
                .orElseThrow(() -> new RefusedException(
                        CommonRefusal.Incomplete.of("number", "a recurring order that comes due again")));
    }

    private void advance(OutlineStore.Kept kept) {
        var o = kept.outline();
        var next = new Outline(
                o.number(),
                o.kind(),
                o.state(),
                o.customer(),
                o.from(),
                o.until(),
                o.ceiling(),
                o.rhythm(),
                o.made() + 1,
                o.currency(),
                o.lines(),
                o.schedule());
        jdbc.sql("update outline set made = ?, next_due = ? where id = ?")
                .param(next.made())
                .param(next.dueNext().orElse(null))
                .param(kept.id())
                .update();
    }

    private static void open(Outline outline) {
        if (outline.state() != Outline.State.OPEN) {
            throw new RefusedException(new OutlineRefusal.Closed(outline.number(), outline.kind(), outline.state()));
        }
    }

    /** The customer is locked first, as for its orders: two who call off at once don't both take the last of it. */
    private OutlineStore.Kept seen(String number, long version) {
        locks.customer(store.find(number).outline().customer());
        var kept = store.find(number);
        if (kept.version() != version) {
            throw new RefusedException(new PlatformRefusal.StaleVersion(
                    "The " + kept.outline().kind().words() + " " + number, version, kept.version()));
        }
        return kept;
    }

    private void moved(OutlineStore.Kept kept) {
        jdbc.sql("update outline set version = version + 1 where id = ?")
                .param(kept.id())
                .update();
    }

    private void note(CommandContext context, long id, String sentence) {
        jdbc.sql("insert into outline_change (outline_id, changed_on, changed_by, sentence) values (?, ?, ?, ?)")
                .params(id, context.date(), context.person().username(), Texts.cut(sentence, 8000))
                .update();
    }

    private void lines(long id, Outline outline) {
        outline.lines()
                .forEach(line -> jdbc.sql(
                                "insert into outline_line (outline_id, line_no, item_code, description, quantity,"
                                        + " unit_price, discount_percent) values (?, ?, ?, ?, ?, ?, ?)")
                        .params(
                                id,
                                line.no(),
                                line.item(),
                                line.description(),
                                line.quantity().value(),
                                line.price().unit(),
                                line.price().discountPercent())
                        .update());
        outline.schedule()
                .forEach(call -> jdbc.sql(
                                "insert into outline_call (outline_id, due_on, line_no, quantity) values (?, ?, ?, ?)")
                        .params(id, call.on(), call.line(), call.quantity().value())
                        .update());
    }

    /** As it would be kept: prices and items completed as on an order. */
    private Outline outline(CommandContext context, String number, Outline.Kind kind, int made, Written written) {
        if (written.until().isBefore(written.from())) {
            throw new RefusedException(CommonRefusal.Incomplete.of("until", "a day that is not before the first"));
        }
        if (kind == Outline.Kind.RECURRING_ORDER && written.rhythm().isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("every", "how often it comes due"));
        }
        var order = orders.imagine(context, written.content());
        if (order.lines().isEmpty()
                || order.lines().stream()
                        .anyMatch(line ->
                                line.item().isEmpty() || !line.quantity().isPositive())) {
            throw new RefusedException(CommonRefusal.Incomplete.of(
                    "lines", "at least one line, each with an item and a quantity above zero"));
        }
        var lines = order.lines().stream()
                .map(l -> new Outline.Line(l.no(), l.item(), l.description(), l.quantity(), l.price()))
                .toList();
        var schedule = kind == Outline.Kind.BLANKET_ORDER ? written.schedule() : List.<Outline.Call>of();
        for (var call : schedule) {
            if (lines.stream().noneMatch(line -> line.no() == call.line())
                    || !call.quantity().isPositive()
                    || call.on().isBefore(written.from())
                    || call.on().isAfter(written.until())) {
                throw new RefusedException(CommonRefusal.Incomplete.of(
                        "schedule", "lines that it has, quantities above zero and days of its time"));
            }
        }
        return new Outline(
                number,
                kind,
                Outline.State.OPEN,
                order.customer(),
                written.from(),
                written.until(),
                kind == Outline.Kind.BLANKET_ORDER ? written.ceiling() : Optional.empty(),
                kind == Outline.Kind.RECURRING_ORDER ? written.rhythm() : Optional.empty(),
                made,
                order.currency(),
                lines,
                schedule);
    }

    private static List<String> differences(OutlineStore.Kept before, Outline after, Written written) {
        var differences = new ArrayList<String>();
        differ(differences, "PO", before.po(), po(written));
        differ(differences, "valid from", before.outline().from(), after.from());
        differ(differences, "valid until", before.outline().until(), after.until());
        differ(
                differences,
                "value",
                before.outline().ceiling().map(Money::toString).orElse("none"),
                after.ceiling().map(Money::toString).orElse("none"));
        differ(
                differences,
                "rhythm",
                before.outline().rhythm().map(Rhythm::words).orElse("none"),
                after.rhythm().map(Rhythm::words).orElse("none"));
        differ(differences, "remark", before.remark(), remark(written));
        differ(differences, "lines", said(before.outline()), said(after));
        differ(differences, "schedule", scheduled(before.outline()), scheduled(after));
        if (!Objects.equals(before.details(), details(written))) {
            differences.add("details changed");
        }
        return differences;
    }

    private static String said(Outline outline) {
        return outline.lines().stream()
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

    private static String scheduled(Outline outline) {
        return outline.schedule().stream()
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
