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
import org.springframework.stereotype.Service;

/**
 * Imports invoices from before the company worked with this application: all of a file or, when a cell of it is wrong,
 * nothing.
 */
@Service
class PastInvoices {

    private static final List<String> COLUMNS = List.of("customer", "number", "date", "po", "net");

    private final ImportQueries queries;
    private final Commands commands;
    private final Company company;
    private final ApplicationEventPublisher events;

    PastInvoices(ImportQueries queries, Commands commands, Company company, ApplicationEventPublisher events) {
        this.events = events;
        this.queries = queries;
        this.commands = commands;
        this.company = company;
    }

    /** What became of a file. */
    record PastReport(long rows, int taken, int takenBefore, List<BadCell> bad, String sentence) {}

    private record Past(long customer, String number, LocalDate on, PoNumber po, BigDecimal net) {}

    PastReport take(byte[] content, CsvTable.Dialect dialect) {
        var customers = new HashMap<String, Long>();
        queries.customers().forEach(row -> customers.put(row.customer(), row.id()));
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
        var taken = commands.inTransaction(() -> store(past));
        return new PastReport(
                table.rows(),
                taken,
                past.size() - taken,
                List.of(),
                "%d invoices imported; %d were known before.".formatted(taken, past.size() - taken));
    }

    private int store(List<Past> past) {
        var known = new HashSet<>(queries.pastInvoices().stream()
                .map(row -> row.customerId() + " " + row.number())
                .toList());
        var taken = 0;
        var customers = new TreeSet<Long>();
        for (var invoice : past) {
            if (known.add(invoice.customer() + " " + invoice.number())) {
                var row = new PastInvoiceEntity();
                row.customerId = invoice.customer();
                row.number = invoice.number();
                row.po = invoice.po().text();
                row.poNormal = invoice.po().normal();
                row.poFolded = invoice.po().folded();
                row.invoicedOn = invoice.on();
                row.net = invoice.net();
                queries.session().insert(row);
                taken++;
                customers.add(invoice.customer());
            }
        }
        events.publishEvent(new WorldChanged(commands.context(), customers));
        return taken;
    }
}
