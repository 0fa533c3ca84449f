package app.euthyna.server.bank;

import app.euthyna.core.billing.Matching;
import app.euthyna.core.billing.Matching.Part;
import app.euthyna.core.billing.Matching.Proposal;
import app.euthyna.core.billing.Matching.Received;
import app.euthyna.core.billing.Receiving;
import app.euthyna.core.flow.Effect.Settlement;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Dating;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Refusal;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.billing.Payments;
import app.euthyna.server.platform.ClosedPeriods;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Hashes;
import app.euthyna.server.platform.Ids;
import app.euthyna.server.platform.Many;
import app.euthyna.server.platform.Pages;
import app.euthyna.server.platform.Records;
import app.euthyna.server.platform.RefusedException;
import app.euthyna.server.platform.Texts;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.HashMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Optional;
import java.util.Set;
import java.util.stream.Collectors;
import org.hibernate.LockMode;
import org.springframework.stereotype.Service;
import org.springframework.transaction.annotation.Propagation;
import org.springframework.transaction.annotation.Transactional;

/** Keeps bank statements, each once, and sets their entries against invoices, each once. */
@Service
class BankStatements implements BatchWork {

    /** So many entries are looked at together. */
    private static final int TOGETHER = 500;

    private final BankQueries queries;
    private final MatchCandidates matchCandidates;
    private final Payments payments;
    private final ClosedPeriods closed;
    private final Company company;
    private final Ids ids;

    BankStatements(
            BankQueries queries,
            MatchCandidates matchCandidates,
            Payments payments,
            ClosedPeriods closed,
            Company company,
            Ids ids) {
        this.queries = queries;
        this.matchCandidates = matchCandidates;
        this.payments = payments;
        this.closed = closed;
        this.company = company;
        this.ids = ids;
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
    @Code("already-settled")
    record AlreadySettled(long id, EntryState state) implements Refusal.WrongState {
        String settled() {
            return state.name().toLowerCase(Locale.ROOT).replace('_', ' ');
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
        var before = queries.readBefore(statement.account(), statement.id());
        if (before.isPresent()) {
            var open = Math.toIntExact(queries.open(before.get()));
            return new ReadStatement(
                    before.get(),
                    statement.id(),
                    statement.account(),
                    true,
                    statement.entries().size(),
                    open);
        }
        var row = new BankStatementEntity();
        row.statementId = statement.id();
        row.account = statement.account();
        row.fileName = Texts.cut(fileName, 255);
        row.fileHash = hash;
        row.fromDate = statement.from();
        row.toDate = statement.to();
        row.opening = statement.opening();
        row.closing = statement.closing();
        row.readAt = company.now();
        row.readBy = context.person().username();
        queries.session().insert(row);
        var rows = new ArrayList<BankEntryEntity>();
        var open = 0;
        for (int no = 1; no <= statement.entries().size(); no++) {
            var entry = statement.entries().get(no - 1);
            RefusedException.where(Dating.bookingDay(entry.bookedOn(), context.today()));
            var why = notOurs(entry);
            open += why.isEmpty() ? 1 : 0;
            var kept = new BankEntryEntity();
            kept.statementId = row.id;
            kept.no = no;
            kept.reference = Texts.cut(entry.reference(), 140);
            kept.bookedOn = entry.bookedOn();
            kept.amount = entry.amount();
            kept.currency = Texts.cut(entry.currency(), 3);
            kept.payer = Texts.cut(entry.payer(), 200);
            kept.payerAccount = Texts.cut(entry.payerAccount(), 40);
            kept.creditorReference = Texts.cut(entry.creditorReference(), 40);
            kept.remittance = Texts.cut(entry.remittance(), 1000);
            kept.state = (why.isEmpty() ? EntryState.OPEN : EntryState.NOT_OURS).name();
            kept.why = why;
            rows.add(kept);
        }
        queries.session().insertMultiple(rows);
        return new ReadStatement(
                row.id,
                statement.id(),
                statement.account(),
                false,
                statement.entries().size(),
                open);
    }

    /** Why an entry is no money of a customer's; empty where it may be. */
    private String notOurs(Camt053.Entry entry) {
        if (entry.reversal()) {
            return "reversal by the bank";
        }
        if (entry.amount().signum() <= 0) {
            return "outgoing payment";
        }
        if (!Camt053.inCompanyCurrency(entry, company.currency())) {
            return "in " + entry.currency();
        }
        return entry.amount().stripTrailingZeros().scale() <= company.currency().getDefaultFractionDigits()
                ? ""
                : "more decimals than " + company.currency() + " has";
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
            List<String> payments) {
        private static Entry of(BankQueries.EntryRow row, List<String> payments) {
            return new Entry(
                    row.id(),
                    row.statement(),
                    row.no(),
                    row.reference(),
                    row.bookedOn(),
                    row.amount(),
                    row.currency(),
                    row.payer(),
                    row.payerAccount(),
                    row.creditorReference(),
                    row.remittance(),
                    EntryState.valueOf(row.state()),
                    row.why(),
                    payments);
        }
    }

    /** A page of a statement's entries, and the first of the next. */
    List<Entry> entries(long statement, int after) {
        return withPayments(queries.entries(statement, after, Pages.SIZE + 1));
    }

    Entry entry(long id) {
        return withPayments(queries.entry(id).stream().toList()).stream()
                .findFirst()
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound("bank entry", String.valueOf(id))));
    }

    private List<Entry> withPayments(List<BankQueries.EntryRow> rows) {
        var payments = rows.isEmpty()
                ? Map.<Long, List<String>>of()
                : queries
                        .payments(Many.ids(
                                rows.stream().map(BankQueries.EntryRow::id).toList()))
                        .stream()
                        .collect(Collectors.groupingBy(
                                BankQueries.EntryPaymentRow::entry,
                                Collectors.mapping(BankQueries.EntryPaymentRow::payment, Collectors.toList())));
        return rows.stream()
                .map(row -> Entry.of(row, payments.getOrDefault(row.id(), List.of())))
                .toList();
    }

    /** What entries could settle, the likeliest first, by their ids; of many in as many queries as of one. */
    Map<Long, List<Proposal>> proposals(List<Entry> entries) {
        var open = entries.stream()
                .filter(entry -> entry.state() == EntryState.OPEN)
                .toList();
        var candidates = matchCandidates.candidates(open);
        var of = open.stream().collect(Collectors.toMap(Entry::id, candidates::of));
        var beside = matchCandidates.beside(of.values());
        return open.stream()
                .collect(Collectors.toMap(
                        Entry::id,
                        entry -> Matching.propose(
                                new Received(
                                        company.money(entry.amount()),
                                        entry.payer(),
                                        entry.creditorReference(),
                                        entry.remittance(),
                                        entry.bookedOn()),
                                of.get(entry.id()),
                                beside)));
    }

    /**
     * Makes a payment of an entry, or one for each customer whose invoices it settles; what its invoices do not take
     * stays on account of the first. It is dated as the bank booked it, or on the first open day where the books are
     * closed then; an invoice of a later day is settled on that day.
     *
     * @return the first payment
     */
    @Transactional(propagation = Propagation.MANDATORY)
    public String settle(CommandContext context, long id, List<Part> parts) {
        var entry = openEntry(id);
        var left = company.money(entry.amount());
        for (var part : parts.subList(1, parts.size())) {
            left = left.minus(settled(part));
        }
        var first = part(context, entry, parts.get(0), left);
        queries.settle(id);
        for (var part : parts.subList(1, parts.size())) {
            part(context, entry, part, settled(part));
        }
        return first;
    }

    private Money settled(Part part) {
        return part.settlements().stream().map(Settlement::amount).reduce(company.money(BigDecimal.ZERO), Money::plus);
    }

    private String part(CommandContext context, Entry entry, Part part, Money amount) {
        var booked = closed.through()
                .filter(through -> !entry.bookedOn().isAfter(through))
                .map(through -> through.plusDays(1))
                .orElse(entry.bookedOn());
        part.credits()
                .forEach((credit, settlements) -> payments.allocateCredit(
                        context,
                        part.customer(),
                        settlements.stream()
                                .map(one -> new Receiving.Share(one.invoice(), Optional.of(one.amount())))
                                .toList(),
                        credit,
                        Set.of(),
                        entry.bookedOn()));
        var later = invoicedAfter(booked, part.settlements());
        var words = entry.remittance().isBlank() ? entry.creditorReference() : entry.remittance();
        var payment = payments.receive(
                context.dated(booked),
                part.customer(),
                new Payments.Received(
                        amount,
                        part.settlements().stream()
                                .filter(one -> !later.containsKey(one.invoice()))
                                .toList(),
                        part.discounted(),
                        entry.bookedOn(),
                        Texts.cut(words.isBlank() ? entry.reference() : words, 140)));
        for (var one : part.settlements()) {
            if (later.containsKey(one.invoice())) {
                payments.allocateCredit(
                        context.dated(later.get(one.invoice())),
                        part.customer(),
                        List.of(new Receiving.Share(one.invoice(), Optional.of(one.amount()))),
                        payment,
                        part.discounted().contains(one.invoice()) ? Set.of(one.invoice()) : Set.of(),
                        entry.bookedOn());
            }
        }
        var made = new BankEntryPaymentEntity();
        made.entryId = entry.id();
        made.paymentId = ids.payment(payment);
        queries.session().insert(made);
        part.writtenOff().ifPresent(cents -> payments.writeOffShort(context, cents, entry.reference()));
        return payment;
    }

    /** Those of the invoices that are dated after a day, with their dates. */
    private Map<String, LocalDate> invoicedAfter(LocalDate day, List<Settlement> settlements) {
        var later = new HashMap<String, LocalDate>();
        if (!settlements.isEmpty()) {
            queries.invoicedAfter(
                            Many.names(settlements.stream()
                                    .map(Settlement::invoice)
                                    .toList()),
                            day)
                    .forEach(row -> later.put(row.number(), row.invoicedOn()));
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
        queries.setAside(Texts.cut(context.person().username() + ": " + context.reason(), 1000), id);
    }

    private Entry openEntry(long id) {
        if (queries.session().get(BankEntryEntity.class, id, LockMode.PESSIMISTIC_WRITE) == null) {
            throw new RefusedException(new CommonRefusal.NotFound("bank entry", String.valueOf(id)));
        }
        var entry = entry(id);
        if (entry.state() != EntryState.OPEN) {
            throw new RefusedException(new AlreadySettled(id, entry.state()));
        }
        return entry;
    }

    /** An entry whose best proposal is certain, as one of many. */
    record CertainEntry(long id) {}

    /** Entries of a statement that may be settled without looking. */
    List<Entry> certain(long statement) {
        var certain = new ArrayList<Entry>();
        var some = openAfter(statement, 0);
        while (!some.isEmpty()) {
            var proposals = proposals(some);
            some.stream()
                    .filter(entry -> certain(proposals.get(entry.id())).isPresent())
                    .forEach(certain::add);
            some = openAfter(statement, some.get(some.size() - 1).no());
        }
        return certain;
    }

    private List<Entry> openAfter(long statement, int no) {
        return queries.openEntries(statement, no, TOGETHER).stream()
                .map(row -> Entry.of(row, List.of()))
                .toList();
    }

    private static Optional<Proposal> certain(List<Proposal> proposals) {
        return proposals.stream().findFirst().filter(best -> best.sureness() == Matching.Sureness.CERTAIN);
    }

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.MATCHING;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var entry = openEntry(Records.read(request, CertainEntry.class).id());
        var proposal = certain(proposals(List.of(entry)).get(entry.id()))
                .orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(
                        "certain match any more for bank entry", String.valueOf(entry.id()))));
        var payment = settle(context, entry.id(), proposal.parts());
        return new Done(new DocumentRef(DocumentKind.PAYMENT, payment), proposal.reason());
    }
}
