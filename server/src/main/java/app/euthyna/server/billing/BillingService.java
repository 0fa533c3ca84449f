package app.euthyna.server.billing;

import app.euthyna.core.billing.Billing;
import app.euthyna.core.billing.Billing.Share;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.billing.Receiving;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.Money;
import app.euthyna.server.flow.ChainReader;
import app.euthyna.server.masterdata.MasterData;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.EffectWriter;
import app.euthyna.server.platform.Locks;
import app.euthyna.server.platform.Numbers;
import app.euthyna.server.platform.RefusedException;
import java.util.ArrayList;
import java.util.List;
import java.util.Map;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Billing orders and taking in money. */
@Service
@Transactional(propagation = Propagation.MANDATORY)
public class BillingService {

    private final ChainReader chains;
    private final MasterData masterData;
    private final Company company;
    private final Numbers numbers;
    private final Locks locks;
    private final EffectWriter writer;
    private final JdbcClient jdbc;

    BillingService(ChainReader chains, MasterData masterData, Company company, Numbers numbers, Locks locks, EffectWriter writer,
            JdbcClient jdbc) {
        this.chains = chains;
        this.masterData = masterData;
        this.company = company;
        this.numbers = numbers;
        this.locks = locks;
        this.writer = writer;
        this.jdbc = jdbc;
    }

    /** Bills orders of one customer on one invoice and gives it its number. */
    public String bill(CommandContext context, List<String> orders, List<Share> shares) {
        if (orders.isEmpty()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("orders", "at least one order"));
        }
        locks.customerAndOrder(orders.get(0));
        locks.orders(orders);
        var found = chains.chains(orders);
        for (var order : orders) {
            if (!found.containsKey(order)) {
                throw new RefusedException(new CommonRefusal.NotFound("order", order));
            }
        }
        var customer = masterData.customer(found.get(orders.get(0)).order().customer());
        var invoiced = RefusedException.unless(Billing.bill(customer.code(), new ArrayList<>(found.values()), shares,
                numbers.nextInvoice(context.date()), context.date(), customer.termsDays()));
        writer.write(context, List.of(invoiced));
        return invoiced.invoice().number();
    }

    /** Takes in a payment and sets it against invoices. */
    public String receive(CommandContext context, String customer, Money amount, List<Settlement> settlements) {
        locks.customer(customer);
        var received = RefusedException.unless(Receiving.receive(numbers.next(DocumentKind.PAYMENT), customer, amount, settlements,
                invoices(settlements)));
        writer.write(context, List.of(received));
        return received.payment();
    }

    /** Sets customer credit against invoices. */
    public void allocateCredit(CommandContext context, String customer, List<Settlement> settlements) {
        locks.customer(customer);
        var credits = jdbc.sql("""
                select p.number, p.left_amount from payment p join customer c on c.id = p.customer_id
                where c.code = ? and p.left_amount > 0 order by p.id""").param(customer)
                .query((r, n) -> new Receiving.Credit(r.getString(1), company.money(r.getBigDecimal(2)))).list();
        writer.write(context, RefusedException.unless(Receiving.allocateCredit(customer, settlements, invoices(settlements), credits)));
    }

    private Map<String, OpenInvoice> invoices(List<Settlement> settlements) {
        if (settlements.isEmpty()) {
            return Map.of();
        }
        return jdbc.sql("""
                select i.number, c.code, i.gross, i.open_amount from invoice i join customer c on c.id = i.customer_id
                where i.number in (:numbers)""").param("numbers", settlements.stream().map(Settlement::invoice).toList())
                .query((r, n) -> new OpenInvoice(r.getString(1), r.getString(2), company.money(r.getBigDecimal(3)),
                        company.money(r.getBigDecimal(4)))).list().stream()
                .collect(Collectors.toMap(OpenInvoice::number, Function.identity()));
    }
}
