package app.euthyna.core.order;

import app.euthyna.core.shared.Vat;

/** How sales to a customer are taxed: as the item says, under reverse charge (EN 16931 AE), or as export (G). */
public enum VatTreatment {
    DOMESTIC,
    REVERSE_CHARGE,
    EXPORT;

    public Vat apply(Vat item) {
        return switch (this) {
            case DOMESTIC -> item;
            case REVERSE_CHARGE -> Vat.of(Vat.Category.AE, "0");
            case EXPORT -> Vat.of(Vat.Category.G, "0");
        };
    }
}
