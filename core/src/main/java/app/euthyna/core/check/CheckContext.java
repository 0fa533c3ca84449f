package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Role;
import java.time.LocalDate;
import java.util.List;
import java.util.Map;
import java.util.Optional;

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
        return new CheckContext(
                businessDate,
                changed,
                position,
                poUses,
                dueInvoices,
                items,
                licences,
                free,
                quotas,
                past,
                authorRole,
                policy);
    }

    public CheckContext withPosition(CustomerPosition changed) {
        return new CheckContext(
                businessDate,
                customer,
                changed,
                poUses,
                dueInvoices,
                items,
                licences,
                free,
                quotas,
                past,
                authorRole,
                policy);
    }

    public CheckContext withPoUses(List<PoUse> changed) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                changed,
                dueInvoices,
                items,
                licences,
                free,
                quotas,
                past,
                authorRole,
                policy);
    }

    public CheckContext withDueInvoices(List<DueInvoice> changed) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                poUses,
                changed,
                items,
                licences,
                free,
                quotas,
                past,
                authorRole,
                policy);
    }

    public CheckContext withItems(Map<String, ItemFact> changed) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                poUses,
                dueInvoices,
                changed,
                licences,
                free,
                quotas,
                past,
                authorRole,
                policy);
    }

    public CheckContext withFree(Map<String, Quantity> changed) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                poUses,
                dueInvoices,
                items,
                licences,
                changed,
                quotas,
                past,
                authorRole,
                policy);
    }

    public CheckContext withQuotas(List<Quota> changed) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                poUses,
                dueInvoices,
                items,
                licences,
                free,
                changed,
                past,
                authorRole,
                policy);
    }

    public CheckContext withPast(PastOrders changed) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                poUses,
                dueInvoices,
                items,
                licences,
                free,
                quotas,
                changed,
                authorRole,
                policy);
    }

    public CheckContext withAuthorRole(Role role) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                poUses,
                dueInvoices,
                items,
                licences,
                free,
                quotas,
                past,
                Optional.of(role),
                policy);
    }

    public CheckContext withPolicy(CheckPolicy changed) {
        return new CheckContext(
                businessDate,
                customer,
                position,
                poUses,
                dueInvoices,
                items,
                licences,
                free,
                quotas,
                past,
                authorRole,
                changed);
    }
}
