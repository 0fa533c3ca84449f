package app.euthyna.server.trail;

import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.trail.Trail;
import app.euthyna.server.ledger.LedgerReader;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.ReadBy;
import jakarta.annotation.Nullable;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.TreeMap;
import org.springframework.transaction.annotation.Isolation;
import org.springframework.transaction.annotation.Transactional;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.PathVariable;
import org.springframework.web.bind.annotation.RequestMapping;
import org.springframework.web.bind.annotation.RestController;

/** Trails over HTTP. */
@RestController
@RequestMapping("/api/trails")
class TrailController {

    private final TrailReader trails;
    private final LedgerReader ledger;
    private final MasterData masterData;
    private final Company company;

    TrailController(TrailReader trails, LedgerReader ledger, MasterData masterData, Company company) {
        this.trails = trails;
        this.ledger = ledger;
        this.masterData = masterData;
        this.company = company;
    }

    record TrailDocumentView(String kind, String number) {
        static TrailDocumentView of(DocumentRef ref) {
            return new TrailDocumentView(ref.kind().name(), ref.number());
        }
    }

    record UnitView(String measure, BigDecimal quantity, List<String> lines) {}

    record RowView(
            String aspect,
            LocalDate date,
            TrailDocumentView document,
            List<TrailDocumentView> parents,
            String what,
            String by,
            boolean dropped,
            boolean undoes,
            List<UnitView> units,
            BigDecimal billed,
            BigDecimal settled,
            BigDecimal open) {}

    record FlowView(
            String order,
            int line,
            String description,
            BigDecimal ordered,
            BigDecimal cancelled,
            BigDecimal reserved,
            BigDecimal staged,
            BigDecimal dispatched,
            BigDecimal returned,
            BigDecimal billed,
            BigDecimal credited,
            BigDecimal toShip,
            BigDecimal toBill) {}

    record AccountView(String account, String name, BigDecimal balance) {}

    record TrailView(
            TrailDocumentView start,
            String customer,
            String customerName,
            List<String> roots,
            List<TrailDocumentView> documents,
            List<RowView> rows,
            List<NeighbourView> neighbours,
            List<FlowView> flows,
            BigDecimal billed,
            BigDecimal settled,
            BigDecimal open,
            @Nullable LocalDate nextDue,
            @Nullable @ReadBy(ReadBy.Group.BOOKS) List<AccountView> ledger,
            List<StillToDoView> stillToDo) {}

    /**
     * A document of another trail that is met here.
     *
     * @param amount what of a credit note pays here; null for an order
     */
    record NeighbourView(
            String kind, String number, @Nullable BigDecimal amount) {}

    /** What waits for someone: goods that are expected or in inspection, credits not given, refunds not done. */
    record StillToDoView(TrailDocumentView document, String what) {}

    @GetMapping("/{kind}/{number}")
    @Transactional(readOnly = true, isolation = Isolation.SERIALIZABLE)
    TrailView trail(@PathVariable DocumentKind kind, @PathVariable String number) {
        var facts = trails.from(kind, number);
        var trail = Trail.of(facts, company.currency());
        var names = ledger.accountNames();
        var customer = facts.roots().isEmpty()
                ? facts.payments().get(0).customer()
                : facts.roots().get(0).order().customer();
        return new TrailView(
                TrailDocumentView.of(trail.start()),
                customer,
                masterData.customer(customer).name(),
                facts.roots().stream().map(c -> c.order().number()).toList(),
                trail.documents().stream().map(TrailDocumentView::of).toList(),
                trail.rows().stream().map(TrailController::row).toList(),
                trail.neighbours().stream()
                        .map(one -> new NeighbourView(
                                one.document().kind().name(),
                                one.document().number(),
                                one.amount().map(Money::amount).orElse(null)))
                        .toList(),
                trail.flows().stream()
                        .map(f -> new FlowView(
                                f.orderLine().number(),
                                f.orderLine().line(),
                                f.flow().line().description(),
                                f.flow().ordered().value(),
                                f.flow().cancelled().value(),
                                f.flow().reserved().value(),
                                f.flow().staged().value(),
                                f.flow().dispatched().value(),
                                f.flow().returned().value(),
                                f.flow().billed().value(),
                                f.flow().credited().value(),
                                f.flow().toShip().value(),
                                f.flow().toBill().value()))
                        .toList(),
                trail.money().billed().amount(),
                trail.money().settled().amount(),
                trail.money().open().amount(),
                trail.money().nextDue(),
                trail.ledger().stream()
                        .map(l -> new AccountView(
                                l.account(), names.get(l.account()), l.balance().amount()))
                        .toList(),
                trails.stillToDo(facts).stream()
                        .map(todo -> new StillToDoView(TrailDocumentView.of(todo.document()), todo.what()))
                        .toList());
    }

    private static RowView row(Trail.Row row) {
        var sums = new TreeMap<Trail.Measure, Quantity>();
        var lines = new TreeMap<Trail.Measure, List<String>>();
        for (var move : row.units()) {
            sums.merge(move.measure(), move.quantity(), Quantity::plus);
            lines.computeIfAbsent(move.measure(), m -> new ArrayList<>())
                    .add(move.orderLine().toString());
        }
        return new RowView(
                row.aspect().name(),
                row.date(),
                TrailDocumentView.of(row.document()),
                row.parents().stream().map(TrailDocumentView::of).toList(),
                row.what(),
                row.by(),
                row.dropped(),
                row.undoes(),
                sums.entrySet().stream()
                        .map(e -> new UnitView(e.getKey().name(), e.getValue().value(), lines.get(e.getKey())))
                        .toList(),
                row.billed().amount(),
                row.settled().amount(),
                row.open().amount());
    }
}
