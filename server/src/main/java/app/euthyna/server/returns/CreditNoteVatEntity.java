package app.euthyna.server.returns;

import app.euthyna.core.shared.Vat;
import jakarta.persistence.Entity;
import jakarta.persistence.EnumType;
import jakarta.persistence.Enumerated;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.math.BigDecimal;

@Entity
@IdClass(CreditNoteVatEntity.Key.class)
@Table(name = "credit_note_vat")
public class CreditNoteVatEntity {
    @Id
    long creditNoteId;

    @Enumerated(EnumType.STRING)
    @Id
    Vat.Category vatCategory;

    @Id
    BigDecimal vatRate;

    BigDecimal taxable;
    BigDecimal tax;

    /** The share of a discount taken on the invoice, by which taxable and tax are less than the lines. */
    BigDecimal discountNet = BigDecimal.ZERO;

    BigDecimal discountTax = BigDecimal.ZERO;

    public record Key(long creditNoteId, Vat.Category vatCategory, BigDecimal vatRate) {}
}
