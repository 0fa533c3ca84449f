package app.euthyna.server;

import java.nio.charset.StandardCharsets;

/** Files as banks send them. */
final class BankFile {

    private BankFile() {}

    static String entry(String amount, String sign, String payer, String reference, String text) {
        return """
            <Ntry><Amt Ccy="EUR">%s</Amt><CdtDbtInd>%s</CdtDbtInd><Sts>BOOK</Sts><BookgDt><Dt>2026-03-02</Dt></BookgDt><NtryDtls><TxDtls>
            <Refs><EndToEndId>NOTPROVIDED</EndToEndId></Refs><RltdPties><Dbtr><Nm>%s</Nm></Dbtr></RltdPties>
            <RmtInf><Ustrd>%s</Ustrd>%s</RmtInf></TxDtls></NtryDtls></Ntry>\
            """.formatted(
                amount,
                sign,
                payer,
                text,
                reference.isEmpty() ? "" : "<Strd><CdtrRefInf><Ref>%s</Ref></CdtrRefInf></Strd>".formatted(reference));
    }

    /** The shape is that of ISO 20022 camt.053.001.02; the balances are added so that they agree. */
    static byte[] of(String id, String entries, String closing) {
        return """
            <?xml version="1.0" encoding="UTF-8"?><Document xmlns="urn:iso:std:iso:20022:tech:xsd:camt.053.001.02"><BkToCstmrStmt><GrpHdr><MsgId>M</MsgId></GrpHdr>
            <Stmt><Id>%s</Id><FrToDt><FrDtTm>2026-03-02T00:00:00</FrDtTm><ToDtTm>2026-03-02T23:59:59</ToDtTm></FrToDt><Acct><Id><IBAN>NL91 ABNA 0417 1643 00</IBAN></Id></Acct>
            <Bal><Tp><CdOrPrtry><Cd>OPBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">1000.00</Amt><CdtDbtInd>CRDT</CdtDbtInd></Bal>
            <Bal><Tp><CdOrPrtry><Cd>CLBD</Cd></CdOrPrtry></Tp><Amt Ccy="EUR">%s</Amt><CdtDbtInd>CRDT</CdtDbtInd></Bal>%s</Stmt></BkToCstmrStmt></Document>\
            """.formatted(id, closing, entries).getBytes(StandardCharsets.UTF_8);
    }
}
