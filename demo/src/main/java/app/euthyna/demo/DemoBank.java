package app.euthyna.demo;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDate;
import java.util.ArrayList;
import java.util.List;
import java.util.function.Function;
import java.util.stream.Collectors;
import org.springframework.http.HttpHeaders;
import org.springframework.http.MediaType;
import org.springframework.http.ResponseEntity;
import org.springframework.web.bind.annotation.GetMapping;
import org.springframework.web.bind.annotation.RestController;

/**
 * A bank statement made up from what the demo company has open, to try the reading of one; there is none outside the
 * demo.
 */
@RestController
class DemoBank {

    private record Paid(BigDecimal amount, String payer, String reference, String text) {}

    /** How an invoice each is paid. */
    private static final List<Function<DemoQueries.Open, Paid>> WAYS = List.of(
            one -> new Paid(one.openAmount(), one.customer(), CreditorReference.of(one.number()), ""),
            one -> new Paid(
                    one.openAmount(),
                    one.customer(),
                    "",
                    "invoice " + one.number().replace("-", "/")),
            one -> new Paid(one.openAmount(), "A. Nother", "", "for the rope"),
            one -> new Paid(
                    one.openAmount().subtract(new BigDecimal("20")),
                    one.customer(),
                    "",
                    "less carriage, inv " + one.number()),
            one -> new Paid(one.openAmount(), one.customer(), "", "thank you"),
            one -> new Paid(
                    one.openAmount().subtract(new BigDecimal("0.40")),
                    one.customer(),
                    "",
                    one.number() + " less bank charges"));

    private final DemoQueries queries;
    private final Company company;
    private final Clock clock;

    DemoBank(DemoQueries queries, Company company, Clock clock) {
        this.queries = queries;
        this.company = company;
        this.clock = clock;
    }

    /**
     * Today's statement: money by reference, by number, from another payer, in part, by the payer's name alone, short
     * by cents, for two invoices at once, from nobody known, and charges.
     */
    @GetMapping(path = "/api/demo/bank-statement", produces = MediaType.APPLICATION_XML_VALUE)
    ResponseEntity<byte[]> statement() {
        if (!company.facts().demo()) {
            throw new RefusedException(new CommonRefusal.NotFound("statement of the demo's bank", "this is no demo"));
        }
        var open = queries.open();
        var today = LocalDate.now(clock);
        var paid = new ArrayList<Paid>();
        for (int at = 0; at < Math.min(WAYS.size(), open.size()); at++) {
            paid.add(WAYS.get(at).apply(open.get(at)));
        }
        if (open.size() > WAYS.size() + 1) {
            var one = open.get(WAYS.size());
            var other = open.get(WAYS.size() + 1);
            paid.add(new Paid(
                    one.openAmount().add(other.openAmount()),
                    one.customer(),
                    "",
                    "%s and %s".formatted(one.number(), other.number())));
        }
        paid.add(new Paid(new BigDecimal("77.77"), "Somebody Else", "", "club dues"));
        paid.add(new Paid(new BigDecimal("-12.50"), "", "", "charges"));
        var entries = paid.stream().map(one -> entry(one, today)).collect(Collectors.joining());
        var sum = paid.stream().map(Paid::amount).reduce(BigDecimal.ZERO, BigDecimal::add);
        var opening = new BigDecimal("41250.00");
        var xml = """
            <?xml version="1.0" encoding="UTF-8"?>
            <Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.02"><BkToCstmrStmt><GrpHdr><MsgId>DEMO-%1$s</MsgId></GrpHdr><Stmt><Id>DEMO-%1$s</Id>
            <FrToDt><FrDtTm>%1$sT00:00:00</FrDtTm><ToDtTm>%1$sT23:59:59</ToDtTm></FrToDt><Acct><Id><IBAN>NL91ABNA0417164300</IBAN></Id></Acct>
            <Bal><Tp><CdOrPrtry><Cd>OPBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">%2$s</Amt><CdtDbtInd>CRDT</CdtDbtInd></Bal>
            <Bal><Tp><CdOrPrtry><Cd>CLBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">%3$s</Amt><CdtDbtInd>CRDT</CdtDbtInd></Bal>
            %4$s</Stmt></BkToCstmrStmt></Document>
            """.formatted(today, opening, company.money(opening.add(sum)).amount(), entries);
        return ResponseEntity.ok()
                .contentType(MediaType.APPLICATION_XML)
                .header(HttpHeaders.CONTENT_DISPOSITION, "attachment; filename=\"statement.xml\"")
                .body(xml.getBytes(StandardCharsets.UTF_8));
    }

    private String entry(Paid paid, LocalDate on) {
        return """
            <Ntry><Amt Ccy="EUR">%s</Amt><CdtDbtInd>%s</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>%s</Dt></BookgDt><NtryDtls><TxDtls><RltdPties><Dbtr><Nm>%s</Nm></Dbtr></RltdPties>
            <RmtInf><Ustrd>%s</Ustrd>%s</RmtInf></TxDtls></NtryDtls></Ntry>
            """.formatted(
                        company.money(paid.amount().abs()).amount(),
                        paid.amount().signum() < 0 ? "DBIT" : "CRDT",
                        on,
                        escaped(paid.payer()),
                        escaped(paid.text()),
                        paid.reference().isEmpty()
                                ? ""
                                : "<Strd><CdtrRefInf><Ref>" + paid.reference() + "</Ref></CdtrRefInf></Strd>");
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;");
    }
}
