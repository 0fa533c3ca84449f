package app.euthyna.demo;

import app.euthyna.core.billing.CreditorReference;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.RefusedException;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.time.Clock;
import java.time.LocalDate;
import java.util.List;
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

    private final DemoQueries queries;
    private final Company company;
    private final Clock clock;

    DemoBank(DemoQueries queries, Company company, Clock clock) {
        this.queries = queries;
        this.company = company;
        this.clock = clock;
    }

    /**
     * Today's statement: money by reference, by number, in part, by the payer's name alone, from nobody known, and
     * charges.
     */
    @GetMapping(path = "/api/demo/bank-statement", produces = MediaType.APPLICATION_XML_VALUE)
    ResponseEntity<byte[]> statement() {
        if (!company.facts().demo()) {
            throw new RefusedException(new CommonRefusal.NotFound("statement of the demo's bank", "this is no demo"));
        }
        var open = queries.open();
        var today = LocalDate.now(clock);
        var entries = new StringBuilder();
        var sum = BigDecimal.ZERO;
        for (int at = 0; at < open.size(); at++) {
            var one = open.get(at);
            var part = at == 3 ? one.openAmount().subtract(new BigDecimal("20")) : one.openAmount();
            entries.append(entry(
                    part,
                    "CRDT",
                    at == 2 ? "A. Nother" : one.customer(),
                    at == 0 ? CreditorReference.of(one.number()) : "",
                    List.of(
                                    "",
                                    "invoice " + one.number().replace("-", "/"),
                                    "for the rope",
                                    "less carriage, inv " + one.number(),
                                    "thank you")
                            .get(at),
                    today));
            sum = sum.add(part);
        }
        entries.append(entry(new BigDecimal("77.77"), "CRDT", "Somebody Else", "", "club dues", today))
                .append(entry(new BigDecimal("12.50"), "DBIT", "", "", "charges", today));
        sum = sum.add(new BigDecimal("65.27"));
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

    private String entry(BigDecimal amount, String sign, String payer, String reference, String text, LocalDate on) {
        return """
            <Ntry><Amt Ccy="EUR">%s</Amt><CdtDbtInd>%s</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>%s</Dt></BookgDt><NtryDtls><TxDtls><RltdPties><Dbtr><Nm>%s</Nm></Dbtr></RltdPties>
            <RmtInf><Ustrd>%s</Ustrd>%s</RmtInf></TxDtls></NtryDtls></Ntry>
            """.formatted(
                company.money(amount).amount(),
                sign,
                on,
                escaped(payer),
                escaped(text),
                reference.isEmpty() ? "" : "<Strd><CdtrRefInf><Ref>" + reference + "</Ref></CdtrRefInf></Strd>");
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;");
    }
}
