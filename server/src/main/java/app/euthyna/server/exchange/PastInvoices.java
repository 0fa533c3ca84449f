package app.euthyna.server.exchange;

import app.euthyna.core.check.PoNumber;
import app.euthyna.server.exchange.CsvTable.BadCell;
import app.euthyna.server.platform.Commands;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.WorldChanged;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.HashSet;
import java.util.List;
import java.util.TreeSet;
import org.springframework.context.ApplicationEventPublisher;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Service;
import org.springframework.transaction.support.TransactionTemplate;

/**
 * Imports invoices from before the company worked with this application: all of a file or, when a cell of it is wrong,
 * nothing.
 */
@Service
class PastInvoices {

    private static final List<String> COLUMNS = List.of("customer", "number", "date", "po", "net");

    private final JdbcClient jdbc;
    private final Commands commands;
    private final Company company;
    private final TransactionTemplate transactions;
    private final ApplicationEventPublisher events;

    PastInvoices(
            JdbcClient jdbc,
            Commands commands,
            Company company,
            TransactionTemplate transactions,
            ApplicationEventPublisher events) {
        this.events = events;
        this.jdbc = jdbc;
        this.commands = commands;
        this.company = company;
        this.transactions = transactions;
    }

    /** What became of a file. */
    record PastReport(long rows, int taken, int takenBefore, List<BadCell> bad, String sentence) {}

    private record Past(long customer, String number, LocalDate on, PoNumber po, BigDecimal net) {}

    PastReport take(byte[] content, CsvTable.Dialect dialect) {
        var customers = new HashMap<String, Long>();
        jdbc.sql("select code, id from customer")
                .query((r, n) -> customers.put(r.getString(1), r.getLong(2)))
                .list();
        var table = CsvTable.read(content, dialect, COLUMNS, COLUMNS);
        var past = new ArrayList<Past>();
        for (var record : table.records()) {
            var customer = table.cell(record, "customer").strip();
            if (!customers.containsKey(customer)) {
                table.bad(record, "customer", customer, "a customer code");
            }
            var number = table.text(record, "number", 40, "the number of the invoice");
            var po = table.text(record, "po", 120, "the PO number");
            var on = table.date(record, "date");
            if (on == null && table.cell(record, "date").isBlank()) {
                table.bad(record, "date", "", "a date like 2026-03-02");
            }
            var net = table.number(record, "net", company.currency().getDefaultFractionDigits());
            if (net == null && table.cell(record, "net").isBlank()) {
                table.bad(record, "net", "", "the net amount");
            }
            if (table.failures() == 0) {
                past.add(new Past(customers.get(customer), number, on, PoNumber.of(po), net));
            }
        }
        if (table.failures() > 0) {
            return new PastReport(table.rows(), 0, 0, table.firstBad(), table.refusal());
        }
        var taken = commands.retrying(() -> transactions.execute(status -> store(past)));
        return new PastReport(
                table.rows(),
                taken,
                past.size() - taken,
                List.of(),
                "%d invoices imported; %d were known before.".formatted(taken, past.size() - taken));
    }

    private int store(List<Past> past) {
        var known = new HashSet<>(jdbc.sql("select customer_id, number from past_invoice")
                .query((r, n) -> r.getLong(1) + " " + r.getString(2))
                .list());
        var taken = 0;
        var customers = new TreeSet<Long>();
        for (var invoice : past) {
            if (known.add(invoice.customer() + " " + invoice.number())) {
                jdbc.sql("insert into past_invoice (customer_id, number, po, po_normal, po_folded, invoiced_on,"
                                + " net) values (?, ?, ?, ?, ?, ?, ?)")
                        .params(
                                invoice.customer(),
                                invoice.number(),
                                invoice.po().text(),
                                invoice.po().normal(),
                                invoice.po().folded(),
                                invoice.on(),
                                invoice.net())
                        .update();
                taken++;
                customers.add(invoice.customer());
            }
        }
        events.publishEvent(new WorldChanged(commands.context(), customers));
        return taken;
    }
}
