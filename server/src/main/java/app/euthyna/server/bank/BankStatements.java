package app.euthyna.server.bank;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.billing.Matching;
import app.euthyna.core.billing.Matching.Candidate;
import app.euthyna.core.billing.Matching.Proposal;
import app.euthyna.core.billing.Matching.Received;
import app.euthyna.core.billing.OpenInvoice;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.billing.BillingService;
import app.euthyna.server.platform.ClosedPeriods;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.math.BigDecimal;
import java.sql.ResultSet;
import java.sql.SQLException;
import java.sql.Timestamp;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.LinkedHashMap;
import java.util.LinkedHashSet;
import java.util.List;
import java.util.Map;
import java.util.Optional;
import java.util.regex.Pattern;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.jdbc.support.GeneratedKeyHolder;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Keeps bank statements, each once, and sets their entries against invoices, each once. */
@Service
class BankStatements implements BatchWork {

    /** An invoice number as a payer may spell it: year, sign or not, running number. */
    private static final Pattern NUMBER = Pattern.compile("(?<![A-Za-z0-9])(20\\d\\d)[^A-Za-z0-9]?(\\d{5,7})(?![0-9])");

    private static final Pattern REFERENCE = Pattern.compile("RF\\d\\d(20\\d\\d)(\\d{5})");

    private final JdbcClient jdbc;
    private final BillingService billing;
    private final ClosedPeriods closed;
    private final Company company;
    private final Ids ids;
    private final Clock clock;

    BankStatements(
            JdbcClient jdbc, BillingService billing, ClosedPeriods closed, Company company, Ids ids, Clock clock) {
        this.jdbc = jdbc;
        this.billing = billing;
        this.closed = closed;
        this.company = company;
        this.ids = ids;
        this.clock = clock;
    }

    /** What is to be done with an entry, or was. */
    enum EntryState {
        /** Money that came in and is to be set against something. */
        OPEN,
        /** A payment was made of it. */
        SETTLED,
        /** Money that went out, or in another currency: not ours to settle. */
        NOT_OURS,
        /** Somebody decided that it is no payment of a customer's. */
        SET_ASIDE
    }

    /** A statement of the file: new, or read before and left as it was. */
    record ReadStatement(long id, String statementId, String account, boolean readBefore, int entries, int open) {}

    /** The entry was dealt with. */
    record AlreadySettled(long id, EntryState state) implements Refusal {
        @Override
        public String code() {
            return "already-settled";
        }

        @Override
        public Kind kind() {
            return Kind.WRONG_STATE;
        }

        @Override
        public String sentence() {
            return "Bank entry %d is already %s."
                    .formatted(
                            id, state.name().toLowerCase(java.util.Locale.ROOT).replace('_', ' '));
        }
    }

    /** Takes in a file, all its statements or none. What was read before is not read again. */
    @Transactional(propagation = Propagation.MANDATORY)
    public List<ReadStatement> take(CommandContext context, String fileName, byte[] content) {
        List<Camt053.Statement> found;
        try {
            found = Camt053.read(content);
        } catch (Camt053.Unreadable broken) {
            throw new RefusedException(new Camt053.NotReadable(broken.getMessage()));
        }
        var hash = Hashes.sha256(content);
        return found.stream()
                .map(statement -> keep(context, fileName, hash, statement))
                .toList();
    }

    private ReadStatement keep(CommandContext context, String fileName, String hash, Camt053.Statement statement) {
        var before = jdbc.sql("select id from bank_statement where account = ? and statement_id = ?")
                .params(statement.account(), statement.id())
                .query(Long.class)
                .optional();
        if (before.isPresent()) {
            var open = jdbc.sql("select count(*) from bank_entry where statement_id = ? and state = 'OPEN'")
                    .param(before.get())
                    .query(Integer.class)
                    .single();
            return new ReadStatement(
                    before.get(),
                    statement.id(),
                    statement.account(),
                    true,
                    statement.entries().size(),
                    open);
        }
        var key = new GeneratedKeyHolder();
        jdbc.sql("insert into bank_statement (statement_id, account, file_name, file_hash, from_date, to_date,"
                        + " opening, closing, read_at, read_by) values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?)")
                .param(Texts.cut(statement.id(), 140))
                .param(Texts.cut(statement.account(), 40))
                .param(Texts.cut(fileName, 255))
                .param(hash)
                .param(statement.from())
                .param(statement.to())
                .param(statement.opening())
                .param(statement.closing())
                .param(Timestamp.from(clock.instant()))
                .param(context.person().username())
                .update(key, "id");
        var id = key.getKeyAs(Long.class);
        var open = 0;
        for (int no = 1; no <= statement.entries().size(); no++) {
            var entry = statement.entries().get(no - 1);
            RefusedException.where(Dating.bookingDay(entry.bookedOn(), context.today()));
            var ours = entry.amount().signum() > 0
                    && Camt053.inCompanyCurrency(entry, company.currency())
                    && !entry.reversal()
                    && entry.amount().stripTrailingZeros().scale()
                            <= company.currency().getDefaultFractionDigits();
            open += ours ? 1 : 0;
            var why = ours
                    ? ""
                    : entry.reversal()
                            ? "reversal by the bank"
                            : entry.amount().signum() <= 0 ? "outgoing payment" : "in " + entry.currency();
            jdbc.sql("""
                insert into bank_entry (statement_id, no, reference, booked_on, amount, currency, payer,
                    payer_account, creditor_reference, remittance, state, why)
                values (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)\
                """)
                    .params(
                            id,
                            no,
                            Texts.cut(entry.reference(), 140),
                            entry.bookedOn(),
                            entry.amount(),
                            Texts.cut(entry.currency(), 3),
                            Texts.cut(entry.payer(), 200),
                            Texts.cut(entry.payerAccount(), 40),
                            Texts.cut(entry.creditorReference(), 40),
                            Texts.cut(entry.remittance(), 1000),
                            (ours ? EntryState.OPEN : EntryState.NOT_OURS).name(),
                            why)
                    .update();
        }
        return new ReadStatement(
                id,
                statement.id(),
                statement.account(),
                false,
                statement.entries().size(),
                open);
    }

    /** An entry as it is kept. */
    record Entry(
            long id,
            long statement,
            int no,
            String reference,
            LocalDate bookedOn,
            BigDecimal amount,
            String currency,
            String payer,
            String payerAccount,
            String creditorReference,
            String remittance,
            EntryState state,
            String why,
            String payment) {}

    List<Entry> entries(String which, Object... parameters) {
        return jdbc.sql("select e.id, e.statement_id, e.no, e.reference, e.booked_on, e.amount, e.currency, e.payer,"
                        + " e.payer_account, e.creditor_reference, e.remittance, e.state, e.why, (select p.number"
                        + " from payment p where p.id = e.payment_id) from bank_entry e where "
                        + which)
                .params(parameters)
                .query(BankStatements::entry)
                .list();
    }

    private static Entry entry(ResultSet r, int n) throws SQLException {
        return new Entry(
                r.getLong(1),
                r.getLong(2),
                r.getInt(3),
                r.getString(4),
                r.getObject(5, LocalDate.class),
                r.getBigDecimal(6),
                r.getString(7),
                r.getString(8),
                r.getString(9),
                r.getString(10),
                r.getString(11),
                EntryState.valueOf(r.getString(12)),
                r.getString(13),
                r.getString(14));
    }

    /** What an entry could settle, the likeliest first. */
    List<Proposal> proposals(Entry entry) {
        if (entry.state() != EntryState.OPEN) {
            return List.of();
        }
        var amount = company.money(entry.amount());
        return Matching.propose(
                new Received(amount, entry.payer(), entry.creditorReference(), entry.remittance()),
                candidates(entry, amount));
    }

    /**
     * Open invoices that something speaks for: a number in the text, the amount, the payer's name. Found by indexes,
     * whatever the number of invoices.
     */
    private List<Candidate> candidates(Entry entry, Money amount) {
        var found = new LinkedHashMap<String, Candidate>();
        var numbers = new LinkedHashSet<String>();
        var text = entry.creditorReference() + " " + entry.remittance();
        for (var pattern :
                Map.of(NUMBER, text, REFERENCE, CreditorReference.letters(text)).entrySet()) {
            var matcher = pattern.getKey().matcher(pattern.getValue());
            while (matcher.find() && numbers.size() < 100) {
                numbers.add(matcher.group(1) + "-" + matcher.group(2));
            }
        }
        if (!numbers.isEmpty()) {
            add(found, "i.number in (:these) order by i.due_on, i.id", Map.of("these", numbers));
        }
        add(
                found,
                "i.open_amount = :amount order by i.open_amount, i.due_on, i.id fetch first 40 rows only",
                Map.of("amount", amount.amount()));
        if (!entry.payer().isBlank()) {
            add(
                    found,
                    "c.id in (select id from customer where lower(name) = lower(:payer)) order by i.due_on, i.id fetch"
                            + " first 60 rows only",
                    Map.of("payer", entry.payer()));
        }
        return new ArrayList<>(found.values());
    }

    private void add(Map<String, Candidate> found, String which, Map<String, ?> parameters) {
        jdbc.sql("select i.number, c.code, i.gross, i.open_amount, c.name from invoice i join customer c on"
                        + " c.id = i.customer_id where i.open_amount > 0 and "
                        + which)
                .params(parameters)
                .query((r, n) -> found.putIfAbsent(
                        r.getString(1),
                        new Candidate(
                                new OpenInvoice(
                                        r.getString(1),
                                        r.getString(2),
                                        company.money(r.getBigDecimal(3)),
                                        company.money(r.getBigDecimal(4))),
                                r.getString(5))))
                .list();
    }

    /**
     * Makes a payment of an entry; what its invoices do not take stays on account. It is dated as the bank booked it,
     * or on the first open day where the books are closed then; an invoice of a later day is settled on that day.
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public String settle(CommandContext context, long id, String customer, List<Settlement> settlements) {
        var entry = openEntry(id);
        var booked = closed.through()
                .filter(through -> !entry.bookedOn().isAfter(through))
                .map(through -> through.plusDays(1))
                .orElse(entry.bookedOn());
        var received = context.dated(booked);
        var later = invoicedAfter(booked, settlements);
        var words = entry.remittance().isBlank() ? entry.creditorReference() : entry.remittance();
        var payment = billing.receive(
                received,
                customer,
                company.money(entry.amount()),
                settlements.stream()
                        .filter(one -> !later.containsKey(one.invoice()))
                        .toList(),
                Texts.cut(words.isBlank() ? entry.reference() : words, 140));
        jdbc.sql("update bank_entry set state = 'SETTLED', payment_id = ? where id = ?")
                .params(ids.payment(payment), id)
                .update();
        for (var one : settlements) {
            if (later.containsKey(one.invoice())) {
                billing.allocateCredit(context.dated(later.get(one.invoice())), customer, List.of(one), payment);
            }
        }
        return payment;
    }

    /** Those of the invoices that are dated after a day, with their dates. */
    private Map<String, LocalDate> invoicedAfter(LocalDate day, List<Settlement> settlements) {
        var later = new HashMap<String, LocalDate>();
        if (!settlements.isEmpty()) {
            jdbc.sql("select number, invoiced_on from invoice where number in (:numbers) and invoiced_on > :day")
                    .param(
                            "numbers",
                            settlements.stream().map(Settlement::invoice).toList())
                    .param("day", day)
                    .query((r, n) -> later.put(r.getString(1), r.getObject(2, LocalDate.class)))
                    .list();
        }
        return later;
    }

    /** Somebody says that an entry is no customer's payment. */
    @Transactional(propagation = Propagation.MANDATORY)
    public void setAside(CommandContext context, long id) {
        if (context.reason().isBlank()) {
            throw new RefusedException(CommonRefusal.Incomplete.of("reason", "a reason for setting it aside"));
        }
        openEntry(id);
        jdbc.sql("update bank_entry set state = 'SET_ASIDE', why = ? where id = ?")
                .params(Texts.cut(context.person().username() + ": " + context.reason(), 1000), id)
                .update();
    }

    private Entry openEntry(long id) {
        var locked = jdbc.sql("select id from bank_entry where id = ? for update")
                .param(id)
                .query(Long.class)
                .optional();
        if (locked.isEmpty()) {
            throw new RefusedException(new CommonRefusal.NotFound("bank entry", String.valueOf(id)));
        }
        var entry = entries("e.id = ?", id).get(0);
        if (entry.state() != EntryState.OPEN) {
            throw new RefusedException(new AlreadySettled(id, entry.state()));
        }
        return entry;
    }

    /** An entry whose best proposal is certain, as one of many. */
    record CertainEntry(long id) {}

    /** Entries of a statement that may be settled without looking. */
    List<Entry> certain(long statement) {
        return entries("e.statement_id = ? and e.state = 'OPEN' order by e.no", statement).stream()
                .filter(entry -> best(entry).isPresent())
                .toList();
    }

    private Optional<Proposal> best(Entry entry) {
        return proposals(entry).stream()
                .findFirst()
                .filter(proposal -> proposal.sureness() == Matching.Sureness.CERTAIN);
    }

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.MATCHING;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var entry = openEntry(Records.read(request, CertainEntry.class).id());
        var proposal = best(entry)
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(
                        "certain match any more for bank entry", String.valueOf(entry.id()))));
        var payment = settle(context, entry.id(), proposal.customer(), proposal.settlements());
        return new Done(new DocumentRef(DocumentKind.PAYMENT, payment), proposal.reason());
    }
}
