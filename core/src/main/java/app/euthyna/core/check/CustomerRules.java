package app.euthyna.core.check;

import app.euthyna.core.shared.Money;
import java.util.Optional;

/** What the house agreed with a customer, as far as checks ask for it. No limit means that there is none. */
public record CustomerRules(String code, Optional<Money> creditLimit, PoPolicy po) {
}
