package app.euthyna.core.unwind;

import static app.euthyna.core.Given.TODAY;
import static app.euthyna.core.Given.eur;
import static app.euthyna.core.Given.q;
import static app.euthyna.core.Given.stock;

import app.euthyna.core.Sale;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Invoice;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Role;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** One order with what grew from it, and plans that undo something of it. */
abstract class Undone {

    static final Person CONTROLLER = new Person("controller", Role.CONTROLLER);
    static final DocumentRef ORDER = DocumentRef.order("SO-1");

    final Sale sale = new Sale(stock(1, "A", "10", "10.00", "21"));
    final List<RefundRules.Source> sources = new ArrayList<>();
    final List<UnwindContext.Applied> applied = new ArrayList<>();
    RefundRules.Bounds bounds = RefundRules.Bounds.NONE;
    Optional<LocalDate> closed = Optional.empty();
    Person who = CONTROLLER;
    Choices choices = Choices.NONE;

    Decision<Plan> plan(Intent intent) {
        return Planner.plan(
                new UnwindContext(List.of(sale.chain()), sale.open(), applied, sources, closed, bounds),
                new UnwindRequest(intent, choices, who, "a mistake", "faulty", TODAY, numbers()));
    }

    static java.util.function.Function<DocumentKind, String> numbers() {
        var given = new HashMap<DocumentKind, Integer>();
        return kind -> kind.prefix() + "X" + given.merge(kind, 1, Integer::sum);
    }

    Plan carriedOut(Intent intent) {
        var plan = plan(intent).get();
        plan.effects().forEach(sale::happen);
        return plan;
    }

    static List<Plan.Kind> kinds(Plan plan) {
        return plan.steps().stream().map(Plan.Step::kind).toList();
    }

    static List<String> asked(Plan plan) {
        return plan.questions().stream().map(Plan.Question::code).toList();
    }

    void refunding() {
        choices = new Choices(Optional.of(Choices.MoneyTo.REFUND), BigDecimal.ZERO, false);
    }

    void keeping() {
        choices = new Choices(Optional.of(Choices.MoneyTo.CUSTOMER_CREDIT), BigDecimal.ZERO, false);
    }

    RefundRules.Source source(DocumentKind kind, String number, String left, Map<String, Money> settled) {
        return new RefundRules.Source(
                new DocumentRef(kind, number), "C", eur("500.00"), eur(left), eur("0.00"), false, settled);
    }

    Invoice shippedAndBilled() {
        sale.leave("D-1", Map.of(1, q(6)), Map.of(1, eur("24.00")));
        return sale.bill();
    }
}
