package app.euthyna.core.ledger;

import app.euthyna.core.shared.Money;

/** An amount on an account; debit is positive, credit negative. */
public record EntryLine(AccountRole role, String account, Money amount) {}
