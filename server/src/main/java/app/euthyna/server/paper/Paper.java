package app.euthyna.server.paper;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Role;
import app.euthyna.server.platform.Reading;
import app.euthyna.server.platform.RefusedException;
import java.util.Locale;
import java.util.Set;

/** Kinds of paper, each of a document or, for a statement, of a customer. */
public enum Paper {
    ORDER_CONFIRMATION("Order confirmation", Reading.SELLING),
    PACKING_SLIP("Packing slip", Reading.BUSINESS),
    INVOICE("Invoice", Reading.SELLING),
    CREDIT_NOTE("Credit note", Reading.SELLING),
    RETURN_SLIP("Return slip", Reading.BUSINESS),
    STATEMENT("Statement of account", Reading.SELLING),
    REMINDER("Reminder", Reading.SELLING);

    private final String title;

    @SuppressWarnings("ImmutableEnumChecker") // an unmodifiable set
    private final Set<Role> readers;

    Paper(String title, Set<Role> readers) {
        this.title = title;
        this.readers = readers;
    }

    public String title() {
        return title;
    }

    /** Slips are for whoever reads goods and quantities, all other papers for whoever reads prices. */
    void requireReader(Role role) {
        if (!readers.contains(role)) {
            throw new RefusedException(new CommonRefusal.NotAuthorised(
                    "read a paper of this kind (%s)".formatted(title.toLowerCase(Locale.ROOT)),
                    role,
                    readers.stream().sorted().toList()));
        }
    }
}
