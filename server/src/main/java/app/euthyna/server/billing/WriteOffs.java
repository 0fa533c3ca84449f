package app.euthyna.server.billing;

import app.euthyna.core.billing.Reducing;
import app.euthyna.core.billing.RefundRules;
import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.RoleLimits;
import app.euthyna.server.flow.DocumentChains;
import app.euthyna.server.masterdata.CompanyRulesStore;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.RefusedException;
import java.util.Collection;
import java.util.HashMap;
import java.util.List;
import java.util.Optional;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Writes off what is not worth asking for, and what is never paid (section 16). */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class WriteOffs {

    private final DocumentChains documents;
    private final EffectWriter writer;
    private final ReductionQueries queries;
    private final OpenInvoices openInvoices;
    private final CompanyRulesStore rules;
    private final Company company;

    WriteOffs(
            DocumentChains documents,
            EffectWriter writer,
            ReductionQueries queries,
            OpenInvoices openInvoices,
            CompanyRulesStore rules,
            Company company) {
        this.documents = documents;
        this.writer = writer;
        this.queries = queries;
        this.openInvoices = openInvoices;
        this.rules = rules;
        this.company = company;
    }

    /** Writes a part of an invoice off; answers the write-off's number. */
    public String write(CommandContext context, String invoice, long version, Reduction.Kind kind, Money amount) {
        var found = documents.locked(DocumentKind.INVOICE, invoice);
        Payments.requireVersion("Invoice", invoice, version, versionOf(invoice));
        var standing = standing(found, invoice);
        var written = RefusedException.orThrow(Reducing.writeOff(
                context.person(),
                new Reducing.WriteOff(
                        writer.number(DocumentKind.WRITE_OFF), kind, amount, context.date(), context.reason()),
                standing,
                bounds(standing.invoice().customer(), invoice)));
        writer.write(context, List.of(written));
        return written.reduction().document().number();
    }

    /**
     * What of an invoice would be written off with others of a list, or why it can't be.
     *
     * @param amount all that is open
     * @param refusal empty where it can
     */
    public record Looked(String invoice, String customer, long version, Money amount, Optional<Refusal> refusal) {}

    /** What writing off all that is open of each of these would come to, one after the other. Nothing is written. */
    @Transactional(readOnly = true)
    public List<Looked> look(CommandContext context, Collection<String> invoices, Reduction.Kind kind) {
        var written = new HashMap<String, Money>();
        return invoices.stream()
                .distinct()
                .map(invoice -> {
                    var standing = standing(documents.of(DocumentKind.INVOICE, invoice), invoice);
                    var customer = standing.invoice().customer();
                    var bounds = bounds(customer, invoice)
                            .after(context.person(), written.getOrDefault(customer, Money.zero(company.currency())));
                    var decision = Reducing.writeOff(
                            context.person(),
                            new Reducing.WriteOff("", kind, standing.open(), context.date(), context.reason()),
                            standing,
                            bounds);
                    if (!decision.isRefused()) {
                        written.merge(customer, standing.open(), Money::plus);
                    }
                    return new Looked(
                            invoice,
                            customer,
                            versionOf(invoice),
                            standing.open(),
                            decision.refusals().stream().findFirst());
                })
                .toList();
    }

    /** The version of an invoice, for whoever writes it off. */
    @Transactional(propagation = Propagation.SUPPORTS)
    public long versionOf(String invoice) {
        return queries.versionOfInvoice(invoice).orElseThrow();
    }

    /** The orders that stand on an invoice. */
    @Transactional(propagation = Propagation.SUPPORTS)
    public List<String> ordersOf(String invoice) {
        return documents.orders(DocumentKind.INVOICE, invoice);
    }

    Reducing.Standing standing(Collection<Chain> chains, String invoice) {
        return new Reducing.Standing(
                Chain.invoiceOf(chains, invoice),
                Chain.creditsFor(chains, invoice),
                openInvoices.amounts(List.of(invoice)).get(invoice));
    }

    private Reducing.Bounds bounds(String customer, String invoice) {
        var inForce = rules.inForce();
        var limits = inForce.limits().badDebt();
        var since = company.today().minusDays(RefundRules.DAYS_TOGETHER);
        var byPerson = new HashMap<String, Money>();
        if (!limits.isEmpty()) {
            queries.byPerson(customer, since).forEach(row -> byPerson.put(row.byUser(), company.money(row.amount())));
        }
        return new Reducing.Bounds(
                company.money(inForce.receivables().smallDifference()),
                inForce.receivables().badDebtRelief(),
                new RoleLimits(company.amounts(limits)),
                byPerson,
                company.money(queries.ofInvoice(invoice, since)));
    }
}
