package app.euthyna.e2e;

import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.e2e.client.Api;
import app.euthyna.e2e.client.Application;
import com.helger.io.resource.inmemory.ReadableResourceString;
import com.helger.phive.api.execute.ValidationExecutionManager;
import com.helger.phive.api.executorset.ValidationExecutorSetRegistry;
import com.helger.phive.api.validity.IValidityDeterminator;
import com.helger.phive.en16931.EN16931Validation;
import com.helger.phive.xml.source.IValidationSourceXML;
import com.helger.phive.xml.source.ValidationSourceXMLReadableResource;
import java.math.BigDecimal;
import java.nio.charset.StandardCharsets;
import java.util.ArrayList;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import java.util.Random;
import org.junit.jupiter.api.AfterAll;
import org.junit.jupiter.api.BeforeAll;
import org.junit.jupiter.api.Test;
import tools.jackson.databind.JsonNode;

/**
 * Credit notes of the running application, as UBL 2.1, before the official rules of EN 16931 (CEN/TC 434, validation
 * artefacts 1.3.15) and the UBL schema. The rules tolerate a VAT total that is a little wrong, so the cents are held by
 * our own tests; sums, categories and the reference to the invoice are held here.
 */
class OfficialRulesTests {

    private static Application application;
    private static ValidationExecutorSetRegistry<IValidationSourceXML> rules;
    private static Api controller;

    @BeforeAll
    static void start() throws Exception {
        application = Application.start("jdbc:h2:mem:rules;DB_CLOSE_DELAY=-1;QUERY_CACHE_SIZE=1024", 0);
        rules = new ValidationExecutorSetRegistry<>();
        EN16931Validation.initEN16931(rules);
        controller = Api.signIn(application.url(), "controller", "controller");
        var admin = Api.signIn(application.url(), "admin", "admin");
        admin.post("/api/customers", Map.of("code", "UBL", "name", "Łódź Ropes & <Sons>"));
        var rates = List.of("21", "9", "0");
        for (int at = 0; at < rates.size(); at++) {
            admin.post(
                    "/api/items",
                    Map.of(
                            "code",
                            "U" + at,
                            "name",
                            "Item " + at,
                            "kind",
                            "STOCK",
                            "price",
                            "9.99",
                            "vatCategory",
                            at == 2 ? "Z" : "S",
                            "vatRate",
                            rates.get(at)));
            controller.post("/api/stock-receipts", Map.of("item", "U" + at, "quantity", 10_000, "unitCost", "3.3333"));
        }
    }

    @AfterAll
    static void stop() throws Exception {
        application.close();
    }

    /** Which rules a document breaks. */
    private static List<String> broken(String ubl) {
        var set = rules.getOfID(EN16931Validation.VID_UBL_CREDIT_NOTE_1315);
        var results = ValidationExecutionManager.executeValidation(
                IValidityDeterminator.createDefault(),
                set,
                ValidationSourceXMLReadableResource.create(new ReadableResourceString(ubl, StandardCharsets.UTF_8)),
                Locale.ENGLISH);
        var broken = new ArrayList<String>();
        results.forEach(result -> result.getErrorList()
                .getAllErrors()
                .forEach(error -> broken.add(error.getErrorID() + " " + error.getErrorText(Locale.ENGLISH))));
        return broken;
    }

    @Test
    void holdForCreditNotesOfEverySort() {
        var seed = Long.getLong("seed", System.nanoTime());
        System.out.println("credit notes from seed " + seed + " (-Dseed=" + seed + " makes them again)");
        var random = new Random(seed);
        var checked = 0;
        for (int round = 0; round < 6; round++) {
            var invoice = invoice(random);
            var credits = new ArrayList<String>();
            credits.addAll(numbers(controller.post(
                    "/api/credit-notes",
                    Map.of(
                            "ofInvoice",
                            invoice,
                            "lines",
                            List.of(Map.of("line", 1, "amount", "0.37")),
                            "reason",
                            "late"))));
            credits.addAll(numbers(controller.post(
                    "/api/credit-notes",
                    Map.of(
                            "ofInvoice",
                            invoice,
                            "lines",
                            List.of(Map.of("line", 2, "quantity", "1.5")),
                            "reason",
                            "scratched"))));
            credits.addAll(returned(invoice, round));
            credits.addAll(
                    numbers(controller.post("/api/credit-notes", Map.of("ofInvoice", invoice, "reason", "all of it"))));
            for (var number : credits) {
                var credit = controller.get("/api/credit-notes/" + number);
                assertThat(broken(ubl(credit, BigDecimal.ZERO)))
                        .as("seed %d: %s", seed, credit)
                        .isEmpty();
                checked++;
            }
        }
        assertThat(checked).isGreaterThanOrEqualTo(24);
    }

    /** The rules are really asked: a cent too many in the sum of the lines is told. */
    @Test
    void wouldTellASumThatIsWrong() {
        var number = numbers(controller.post(
                        "/api/credit-notes", Map.of("ofInvoice", invoice(new Random(1)), "reason", "all of it")))
                .get(0);
        assertThat(broken(ubl(controller.get("/api/credit-notes/" + number), new BigDecimal("0.01"))))
                .anyMatch(rule -> rule.contains("BR-CO-10"));
    }

    private static List<String> numbers(JsonNode credits) {
        return credits.get("numbers").valueStream().map(JsonNode::asString).toList();
    }

    private static String invoice(Random random) {
        var lines = new ArrayList<Map<String, Object>>();
        for (int at = 0; at < 3; at++) {
            lines.add(Map.of(
                    "item",
                    "U" + at,
                    "quantity",
                    3 + random.nextInt(9),
                    "price",
                    BigDecimal.valueOf(20_000 + random.nextInt(900_000), 4).toPlainString()));
        }
        var order = controller
                .post("/api/orders", Map.of("customer", "UBL", "po", "UBL-" + random.nextLong(), "lines", lines))
                .get("number")
                .asString();
        Journey.leaves(controller, order);
        return controller
                .post("/api/invoices", Map.of("orders", List.of(order)))
                .get("number")
                .asString();
    }

    private static List<String> returned(String invoice, int round) {
        var goods = controller
                .post(
                        "/api/returns",
                        Map.of(
                                "lines",
                                List.of(Map.of("invoice", invoice, "line", 1, "quantity", 1 + round % 3)),
                                "reason",
                                "unwanted"))
                .get("number")
                .asString();
        controller.post("/api/returns/" + goods + "/receipts", Map.of());
        return numbers(controller.post("/api/credit-notes", Map.of("ofReturn", goods)));
    }

    /** A credit note as UBL 2.1; the numbers behind BT and BG are those of EN 16931-1. */
    private static String ubl(JsonNode credit, BigDecimal wrongBy) {
        var xml = new StringBuilder("""
            <CreditNote xmlns="urn:oasis:names:specification:ubl:schema:xsd:CreditNote-2" xmlns:cac="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2"
              xmlns:cbc="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
            <cbc:CustomizationID>urn:cen.eu:en16931:2017</cbc:CustomizationID>
            """);
        text(xml, "ID", credit.get("number"));
        text(xml, "IssueDate", credit.get("on"));
        xml.append("<cbc:CreditNoteTypeCode>381</cbc:CreditNoteTypeCode>");
        text(xml, "Note", credit.get("reason"));
        xml.append(
                "<cbc:DocumentCurrencyCode>EUR</cbc:DocumentCurrencyCode><cac:BillingReference><cac:InvoiceDocumentReference>");
        text(xml, "ID", credit.get("invoice"));
        xml.append("</cac:InvoiceDocumentReference></cac:BillingReference>");
        party(
                xml,
                "AccountingSupplierParty",
                "Skerrywick Chandlery",
                "<cac:PartyTaxScheme><cbc:CompanyID>IE1234567FA</cbc:CompanyID><cac:TaxScheme><cbc:ID>VAT</cbc:ID></cac:TaxScheme></cac:PartyTaxScheme>");
        party(xml, "AccountingCustomerParty", credit.get("customerName").asString(), "");
        xml.append("<cac:TaxTotal>").append(amount("TaxAmount", figure(credit, "vat")));
        credit.get("bands")
                .forEach(band -> xml.append("<cac:TaxSubtotal>")
                        .append(amount("TaxableAmount", figure(band, "taxable")))
                        .append(amount("TaxAmount", figure(band, "vat")))
                        .append(category("TaxCategory", band.get("category"), band.get("rate")))
                        .append("</cac:TaxSubtotal>"));
        xml.append("</cac:TaxTotal><cac:LegalMonetaryTotal>")
                .append(amount("LineExtensionAmount", figure(credit, "net").add(wrongBy)))
                .append(amount("TaxExclusiveAmount", figure(credit, "net")))
                .append(amount("TaxInclusiveAmount", figure(credit, "gross")))
                .append(amount("PayableAmount", figure(credit, "gross")))
                .append("</cac:LegalMonetaryTotal>");
        credit.get("lines").forEach(line -> line(xml, line));
        return xml.append("</CreditNote>").toString();
    }

    /** An amount without a quantity stands as one piece of it; what is retained is an allowance on the line (BG-27). */
    private static void line(StringBuilder xml, JsonNode line) {
        var quantity = figure(line, "quantity").signum() == 0 ? BigDecimal.ONE : figure(line, "quantity");
        xml.append("<cac:CreditNoteLine>");
        text(xml, "ID", line.get("no"));
        xml.append("<cbc:CreditedQuantity unitCode=\"C62\">")
                .append(quantity.toPlainString())
                .append("</cbc:CreditedQuantity>")
                .append(amount("LineExtensionAmount", figure(line, "net")));
        if (figure(line, "fee").signum() > 0) {
            xml.append(
                            "<cac:AllowanceCharge><cbc:ChargeIndicator>false</cbc:ChargeIndicator><cbc:AllowanceChargeReason>kept"
                                    + " back for restocking</cbc:AllowanceChargeReason>")
                    .append(amount("Amount", figure(line, "fee")))
                    .append("</cac:AllowanceCharge>");
        }
        xml.append("<cac:Item>");
        text(xml, "Name", line.get("description"));
        xml.append(category("ClassifiedTaxCategory", line.get("vatCategory"), line.get("vatRate")))
                .append("</cac:Item><cac:Price>")
                .append(amount(
                        "PriceAmount",
                        figure(line, "net")
                                .add(figure(line, "fee"))
                                .divide(quantity, 6, java.math.RoundingMode.HALF_UP)))
                .append("</cac:Price></cac:CreditNoteLine>");
    }

    private static void party(StringBuilder xml, String role, String name, String tax) {
        xml.append("<cac:")
                .append(role)
                .append(
                        "><cac:Party><cac:PostalAddress><cac:Country><cbc:IdentificationCode>IE</cbc:IdentificationCode></cac:Country></cac:PostalAddress>")
                .append(tax)
                .append("<cac:PartyLegalEntity><cbc:RegistrationName>")
                .append(escaped(name))
                .append("</cbc:RegistrationName></cac:PartyLegalEntity></cac:Party></cac:")
                .append(role)
                .append(">");
    }

    private static String category(String element, JsonNode code, JsonNode rate) {
        return "<cac:%1$s><cbc:ID>%2$s</cbc:ID><cbc:Percent>%3$s</cbc:Percent><cac:TaxScheme><cbc:ID>VAT</cbc:ID></cac:TaxScheme></cac:%1$s>"
                .formatted(
                        element,
                        code.asString(),
                        new BigDecimal(rate.asString()).stripTrailingZeros().toPlainString());
    }

    private static String amount(String element, BigDecimal amount) {
        return "<cbc:%1$s currencyID=\"EUR\">%2$s</cbc:%1$s>".formatted(element, amount.toPlainString());
    }

    private static void text(StringBuilder xml, String element, JsonNode text) {
        xml.append("<cbc:")
                .append(element)
                .append(">")
                .append(escaped(text.asString()))
                .append("</cbc:")
                .append(element)
                .append(">");
    }

    private static String escaped(String text) {
        return text.replace("&", "&amp;").replace("<", "&lt;");
    }

    private static BigDecimal figure(JsonNode node, String field) {
        return new BigDecimal(node.get(field).asString());
    }
}
