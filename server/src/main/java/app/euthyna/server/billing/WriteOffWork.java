package app.euthyna.server.billing;

import app.euthyna.core.flow.Reduction;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.server.batch.BatchWork;
import app.euthyna.server.batch.Batches;
import app.euthyna.server.platform.CommandContext;
import app.euthyna.server.platform.Company;
import app.euthyna.server.platform.Records;
import java.math.BigDecimal;
import org.springframework.stereotype.Component;

/** Writes an invoice off as one of many. */
@Component
class WriteOffWork implements BatchWork {

    private final WriteOffs writeOffs;
    private final Company company;

    WriteOffWork(WriteOffs writeOffs, Company company) {
        this.writeOffs = writeOffs;
        this.company = company;
    }

    /** An invoice as it was looked at. */
    record Asked(String invoice, long version, Reduction.Kind kind, BigDecimal amount) {}

    @Override
    public Batches.Kind kind() {
        return Batches.Kind.WRITING_OFF;
    }

    @Override
    public Done carryOut(CommandContext context, String request) {
        var asked = Records.read(request, Asked.class);
        var amount = company.given("amount", asked.amount());
        var number = writeOffs.write(context, asked.invoice(), asked.version(), asked.kind(), amount);
        return new Done(new DocumentRef(DocumentKind.WRITE_OFF, number), "%s written off".formatted(amount));
    }
}
