package app.euthyna.server.bank;

import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.Refusal;
import java.io.ByteArrayInputStream;
import java.math.BigDecimal;
import java.time.DateTimeException;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Locale;
import javax.xml.stream.XMLInputFactory;
import javax.xml.stream.XMLStreamConstants;
import javax.xml.stream.XMLStreamException;
import javax.xml.stream.XMLStreamReader;

/**
 * Reads the part of an ISO 20022 bank-to-customer statement (camt.053, any version) that settles invoices: statement,
 * account, balances, and of each booked entry its amount and whose money it is. Read as a stream by the JDK's own
 * parser, without document types, entities or anything from outside; every field that is needed is checked, and the
 * first that is wrong names itself.
 */
final class Camt053 {

    /** Nothing in a statement is nested deeper, and no field is longer. */
    private static final int DEEPEST = 40;

    private static final int LONGEST = 10_000;
    private static final int MOST_ENTRIES = 100_000;

    /** By these two a statement is known again, so they are kept whole; ISO 20022 gives them 35 and 34 characters. */
    private static final int LONGEST_ID = 140;

    private static final int LONGEST_ACCOUNT = 40;

    private Camt053() {}

    /**
     * One statement of the file.
     *
     * @param opening booked balance before it; null where the bank says nothing
     */
    record Statement(
            String id,
            String account,
            LocalDate from,
            LocalDate to,
            BigDecimal opening,
            BigDecimal closing,
            List<Entry> entries) {}

    /**
     * A booked entry, or one payment of an entry that sums several up.
     *
     * @param amount positive where money came in
     * @param reference the bank's own
     * @param creditorReference structured, as the payer gave it
     */
    record Entry(
            String reference,
            LocalDate bookedOn,
            BigDecimal amount,
            String currency,
            boolean reversal,
            String payer,
            String payerAccount,
            String creditorReference,
            String remittance) {}

    /** The file is no statement that can be read. */
    @Code("unreadable-statement")
    record NotReadable(String why) implements Refusal {
        @Override
        public Kind kind() {
            return Kind.INCOMPLETE;
        }
    }

    /** Thrown with the reason; the caller refuses the file. */
    static final class Unreadable extends Exception {
        private static final long serialVersionUID = 1L;

        Unreadable(String why) {
            super(why);
        }
    }

    static List<Statement> read(byte[] content) throws Unreadable {
        try {
            var factory = XMLInputFactory.newDefaultFactory();
            factory.setProperty(XMLInputFactory.SUPPORT_DTD, false);
            factory.setProperty(XMLInputFactory.IS_SUPPORTING_EXTERNAL_ENTITIES, false);
            factory.setProperty(XMLInputFactory.IS_REPLACING_ENTITY_REFERENCES, false);
            factory.setProperty(XMLInputFactory.IS_COALESCING, true);
            factory.setXMLResolver((publicId, systemId, base, namespace) -> {
                throw new XMLStreamException("it refers to an external resource");
            });
            return new Reading(factory.createXMLStreamReader(new ByteArrayInputStream(content))).document();
        } catch (XMLStreamException broken) {
            var at = broken.getLocation() == null
                    ? ""
                    : " (line %d)".formatted(broken.getLocation().getLineNumber());
            throw new Unreadable("it is not well-formed XML" + at);
        }
    }

    /** One pass over the file. The path of element names says where one stands. */
    private static final class Reading {

        private final XMLStreamReader xml;
        private final List<String> path = new ArrayList<>();
        private final List<Statement> statements = new ArrayList<>();

        private String id = "";
        private String account = "";
        private LocalDate from;
        private LocalDate to;
        private BigDecimal opening;
        private BigDecimal closing;
        private List<Entry> entries = new ArrayList<>();

        private String balanceType = "";
        private BigDecimal balance;
        private boolean balanceDebit;

        private Part entry = new Part();
        private Part transaction;
        private List<Part> transactions = new ArrayList<>();
        private boolean booked;
        private int read;
        private int kept;

        private Reading(XMLStreamReader xml) {
            this.xml = xml;
        }

        /** What is gathered of an entry, or of a transaction within it. */
        private static final class Part {
            private String reference = "";
            private LocalDate on;
            private BigDecimal amount;
            private String currency = "";
            private Boolean debit;
            private boolean reversal;
            private String payer = "";
            private String payerAccount = "";
            private String creditorReference = "";
            private final StringBuilder remittance = new StringBuilder();
        }

        private List<Statement> document() throws XMLStreamException, Unreadable {
            var text = new StringBuilder();
            while (xml.hasNext()) {
                switch (xml.next()) {
                    case XMLStreamConstants.DTD ->
                        throw new Unreadable("it has a document type declaration, which is not allowed");
                    case XMLStreamConstants.ENTITY_REFERENCE ->
                        throw new Unreadable("it uses an entity, which is not allowed");
                    case XMLStreamConstants.START_ELEMENT -> {
                        path.add(xml.getLocalName());
                        if (path.size() > DEEPEST) {
                            throw new Unreadable("it is nested too deeply");
                        }
                        if (path.size() == 2 && !path.get(1).equals("BkToCstmrStmt")) {
                            throw new Unreadable(
                                    "it holds %s, not a bank-to-customer statement".formatted(path.get(1)));
                        }
                        start();
                        text.setLength(0);
                    }
                    case XMLStreamConstants.CHARACTERS, XMLStreamConstants.CDATA -> {
                        text.append(xml.getText());
                        if (text.length() > LONGEST) {
                            throw new Unreadable("a field of it is too long");
                        }
                    }
                    case XMLStreamConstants.END_ELEMENT -> {
                        end(text.toString().strip());
                        text.setLength(0);
                        path.remove(path.size() - 1);
                    }
                    default -> {
                        // comments and the like say nothing
                    }
                }
            }
            if (statements.isEmpty()) {
                throw new Unreadable("it holds no statement");
            }
            return statements;
        }

        private boolean at(String... names) {
            return path.size() >= names.length
                    && path.subList(path.size() - names.length, path.size()).equals(List.of(names));
        }

        private boolean within(String name) {
            return path.contains(name);
        }

        private void start() throws Unreadable {
            if (at("Stmt")) {
                id = "";
                account = "";
                from = null;
                to = null;
                opening = null;
                closing = null;
                entries = new ArrayList<>();
            } else if (at("Bal")) {
                balanceType = "";
                balance = null;
                balanceDebit = false;
            } else if (at("Stmt", "Ntry")) {
                entry = new Part();
                transaction = null;
                transactions = new ArrayList<>();
                booked = true;
                read++;
            } else if (at("TxDtls")) {
                transaction = new Part();
                transactions.add(transaction);
            }
            if (at("Amt") && (at("Ntry", "Amt") || at("TxDtls", "Amt"))) {
                (transaction == null ? entry : transaction).currency = attribute("Ccy");
            }
        }

        private String attribute(String name) {
            var value = xml.getAttributeValue(null, name);
            return value == null ? "" : value;
        }

        private void end(String text) throws Unreadable {
            var part = transaction != null && within("TxDtls") ? transaction : entry;
            if (at("Stmt", "Id")) {
                id = text;
            } else if (at("Stmt", "Acct", "Id", "IBAN") || at("Stmt", "Acct", "Id", "Othr", "Id")) {
                account = text.replace(" ", "");
            } else if (at("Stmt", "FrToDt", "FrDtTm")) {
                from = day(text);
            } else if (at("Stmt", "FrToDt", "ToDtTm")) {
                to = day(text);
            } else if (at("Bal", "Tp", "CdOrPrtry", "Cd")) {
                balanceType = text;
            } else if (at("Bal", "Amt")) {
                balance = amount(text);
            } else if (at("Bal", "CdtDbtInd")) {
                balanceDebit = debit(text);
            } else if (at("Bal")) {
                balance();
            } else if (at("Ntry", "NtryRef")
                    || (at("Ntry", "AcctSvcrRef") && entry.reference.isEmpty())
                    || at("TxDtls", "Refs", "AcctSvcrRef")
                    || (at("TxDtls", "Refs", "EndToEndId")
                            && part.reference.isEmpty()
                            && !text.equals("NOTPROVIDED"))) {
                part.reference = text;
            } else if (at("Ntry", "Amt")
                    || at("TxDtls", "Amt")
                    || (at("TxDtls", "AmtDtls", "TxAmt", "Amt") && part.amount == null)) {
                part.amount = amount(text);
            } else if (at("Ntry", "CdtDbtInd") || at("TxDtls", "CdtDbtInd")) {
                part.debit = debit(text);
            } else if (at("Ntry", "RvslInd")) {
                entry.reversal = text.equals("true");
            } else if (at("Ntry", "Sts", "Cd") || at("Ntry", "Sts")) {
                booked = text.isEmpty() ? booked : text.equals("BOOK");
            } else if (at("Ntry", "BookgDt", "Dt") || at("Ntry", "BookgDt", "DtTm")) {
                entry.on = day(text);
            } else if (at("RltdPties", "Dbtr", "Nm") || at("RltdPties", "Dbtr", "Pty", "Nm")) {
                part.payer = text;
            } else if (at("RltdPties", "DbtrAcct", "Id", "IBAN") || at("RltdPties", "DbtrAcct", "Id", "Othr", "Id")) {
                part.payerAccount = text;
            } else if (at("RmtInf", "Ustrd")) {
                part.remittance.append(part.remittance.isEmpty() ? "" : " ").append(text);
            } else if (at("RmtInf", "Strd", "CdtrRefInf", "Ref")) {
                part.creditorReference = text;
            } else if (at("RmtInf", "Strd", "RfrdDocInf", "Nb")) {
                part.remittance.append(part.remittance.isEmpty() ? "" : " ").append(text);
            } else if (at("Stmt", "Ntry")) {
                entry();
            } else if (at("Stmt")) {
                statement();
            }
        }

        private void balance() throws Unreadable {
            if (balance == null) {
                throw new Unreadable("a balance of it has no amount");
            }
            var signed = balanceDebit ? balance.negate() : balance;
            if (balanceType.equals("OPBD") || (balanceType.equals("PRCD") && opening == null)) {
                opening = signed;
            } else if (balanceType.equals("CLBD")) {
                closing = signed;
            }
        }

        private void entry() throws Unreadable {
            if (!booked) {
                return;
            }
            var where = "entry %d".formatted(read);
            if (entry.amount == null || entry.debit == null || entry.on == null || entry.currency.isEmpty()) {
                throw new Unreadable("%s lacks %s"
                        .formatted(
                                where,
                                entry.amount == null
                                        ? "an amount"
                                        : entry.debit == null
                                                ? "whether it is a debit or a credit"
                                                : entry.on == null ? "a booking date" : "a currency"));
            }
            if (transactions.size() > 1 && transactions.stream().allMatch(t -> t.amount != null)) {
                var sum = transactions.stream().map(t -> t.amount).reduce(BigDecimal.ZERO, BigDecimal::add);
                if (sum.compareTo(entry.amount) != 0) {
                    throw new Unreadable("the payments of %s total %s, not %s"
                            .formatted(where, sum.toPlainString(), entry.amount.toPlainString()));
                }
                for (var one : transactions) {
                    add(one, one.amount);
                }
            } else {
                add(transactions.isEmpty() ? entry : transactions.get(0), entry.amount);
            }
        }

        private void add(Part part, BigDecimal amount) throws Unreadable {
            if (++kept > MOST_ENTRIES) {
                throw new Unreadable("it holds more than %d entries".formatted(MOST_ENTRIES));
            }
            entries.add(new Entry(
                    part.reference.isEmpty() ? entry.reference : part.reference,
                    entry.on,
                    entry.debit ? amount.negate() : amount,
                    entry.currency,
                    entry.reversal,
                    part.payer,
                    part.payerAccount,
                    part.creditorReference,
                    part.remittance.toString()));
        }

        private void statement() throws Unreadable {
            if (id.isEmpty() || account.isEmpty()) {
                throw new Unreadable("a statement of it has no " + (id.isEmpty() ? "identification" : "account"));
            }
            if (id.length() > LONGEST_ID || account.length() > LONGEST_ACCOUNT) {
                throw new Unreadable("a statement of it has %s of more than %d characters"
                        .formatted(
                                id.length() > LONGEST_ID ? "an identification" : "an account",
                                id.length() > LONGEST_ID ? LONGEST_ID : LONGEST_ACCOUNT));
            }
            var moved = entries.stream().map(Entry::amount).reduce(BigDecimal.ZERO, BigDecimal::add);
            if (opening != null && closing != null && opening.add(moved).compareTo(closing) != 0) {
                throw new Unreadable("statement %s opens with %s, moves by %s and cannot close with %s"
                        .formatted(id, opening.toPlainString(), moved.toPlainString(), closing.toPlainString()));
            }
            statements.add(new Statement(id, account, from, to, opening, closing, List.copyOf(entries)));
        }

        private static boolean debit(String text) throws Unreadable {
            return switch (text) {
                case "DBIT" -> true;
                case "CRDT" -> false;
                default -> throw new Unreadable("'%s' is neither a debit nor a credit".formatted(shortened(text)));
            };
        }

        private static BigDecimal amount(String text) throws Unreadable {
            if (!text.matches("\\d{1,13}(\\.\\d{1,5})?")) {
                throw new Unreadable("'%s' is not an amount".formatted(shortened(text)));
            }
            return new BigDecimal(text);
        }

        private static LocalDate day(String text) throws Unreadable {
            try {
                return LocalDate.parse(text.length() > 10 ? text.substring(0, 10) : text);
            } catch (DateTimeException none) {
                throw new Unreadable("'%s' is not a date".formatted(shortened(text)));
            }
        }

        private static String shortened(String text) {
            return text.length() > 40 ? text.substring(0, 40) + "…" : text;
        }
    }

    /** Whether an entry is in the company's money. */
    static boolean inCompanyCurrency(Entry entry, Currency currency) {
        return entry.currency().toUpperCase(Locale.ROOT).equals(currency.getCurrencyCode());
    }
}
