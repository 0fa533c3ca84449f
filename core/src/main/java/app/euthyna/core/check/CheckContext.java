package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.function.Consumer;

/**
 * The world as the checks of one order see it on a business date.
 *
 * @param position without the order itself
 * @param poUses other documents of the customer whose PO may be met again: of the same normal or folded form, or of the
 *     same value; cancelled and declined ones left out
 * @param dueInvoices open invoices that are past due, oldest first
 * @param items by code
 * @param licences by class
 * @param free unreserved stock by {@link app.euthyna.core.order.Order#place}
 * @param quotas of the order's items, for its customer, region and seller in the season of its business date
 * @param authorRole empty where its author is no user any more
 */
public record CheckContext(
        LocalDate businessDate,
        CustomerRules customer,
        CustomerPosition position,
        List<PoUse> poUses,
        List<DueInvoice> dueInvoices,
        Map<String, ItemFact> items,
        Map<String, LicenceFact> licences,
        Map<String, Quantity> free,
        List<Quota> quotas,
        PastOrders past,
        Optional<Role> authorRole,
        CheckPolicy policy) {
    public CheckContext {
        poUses = List.copyOf(poUses);
        dueInvoices = List.copyOf(dueInvoices);
        items = Map.copyOf(items);
        licences = Map.copyOf(licences);
        free = Map.copyOf(free);
        quotas = List.copyOf(quotas);
    }

    /** A world of which only the customer is known. */
    public static CheckContext of(LocalDate businessDate, CustomerRules customer, CustomerPosition position) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                List.of(),
                List.of(),
                Map.of(),
                Map.of(),
                Map.of(),
                List.of(),
                PastOrders.NONE,
                Optional.empty(),
                CheckPolicy.STANDARD);
    }

    /** An invoice with what it has open and the day that it was due. */
    public record DueInvoice(String number, LocalDate dueOn, Money open) {}

    public ItemFact item(String code) {
        return items.getOrDefault(code, ItemFact.PLAIN);
    }

    public CheckContext withCustomer(CustomerRules changed) {
        return with(copy -> copy.customer = changed);
    }

    public CheckContext withPosition(CustomerPosition changed) {
        return with(copy -> copy.position = changed);
    }

    public CheckContext withPoUses(List<PoUse> changed) {
        return with(copy -> copy.poUses = changed);
    }

    public CheckContext withDueInvoices(List<DueInvoice> changed) {
        return with(copy -> copy.dueInvoices = changed);
    }

    public CheckContext withItems(Map<String, ItemFact> changed) {
        return with(copy -> copy.items = changed);
    }

    public CheckContext withFree(Map<String, Quantity> changed) {
        return with(copy -> copy.free = changed);
    }

    public CheckContext withQuotas(List<Quota> changed) {
        return with(copy -> copy.quotas = changed);
    }

    public CheckContext withPast(PastOrders changed) {
        return with(copy -> copy.past = changed);
    }

    public CheckContext withAuthorRole(Role role) {
        return with(copy -> copy.authorRole = Optional.of(role));
    }

    public CheckContext withPolicy(CheckPolicy changed) {
        return with(copy -> copy.policy = changed);
    }

    private CheckContext with(Consumer<Copy> change) {
        var copy = new Copy(this);
        change.accept(copy);
        return copy.whole();
    }

    /** The world while one thing of it is changed. */
    private static final class Copy {

        private final CheckContext of;
        private CustomerRules customer;
        private CustomerPosition position;
        private List<PoUse> poUses;
        private List<DueInvoice> dueInvoices;
        private Map<String, ItemFact> items;
        private Map<String, Quantity> free;
        private List<Quota> quotas;
        private PastOrders past;
        private Optional<Role> authorRole;
        private CheckPolicy policy;

        private Copy(CheckContext of) {
            this.of = of;
            customer = of.customer;
            position = of.position;
            poUses = of.poUses;
            dueInvoices = of.dueInvoices;
            items = of.items;
            free = of.free;
            quotas = of.quotas;
            past = of.past;
            authorRole = of.authorRole;
            policy = of.policy;
        }

        private CheckContext whole() {
            return new CheckContext(
                    of.businessDate,
                    customer,
                    position,
                    poUses,
                    dueInvoices,
                    items,
                    of.licences,
                    free,
                    quotas,
                    past,
                    authorRole,
                    policy);
        }
    }
}
