package app.euthyna.core.returns;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Effect;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Quantity;
import app.euthyna.core.shared.Refusal;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Optional;

/**
 * Goods that were received and that no return expects. They are not the company's: they stand in no account and on no
 * shelf until someone who may has decided that they come back on a return, or that they go away again.
 *
 * @param customer who sent them; empty where that is not known
 * @param left what nobody has decided on
 */
public record Unexpected(String number, Optional<String> customer, String item, Quantity left) {

    /** What may be done with goods that are not taken back. */
    public enum Away {
        SENT_BACK,
        SCRAPPED
    }

    /** Who decides on a quantity, and why. */
    public record Decided(Person by, Quantity quantity, String reason) {}

    /**
     * They come back on a return after all: it is authorised and received at once, as the company grants returns.
     *
     * @param asked the return, from dispatch lines of the same item
     * @param chains of every order whose goods they are
     */
    public Decision<List<Effect>> admit(
            Decided decided, Returning.Asked asked, Collection<Chain> chains, ReturnPolicy policy) {
        var refusals = new ArrayList<>(refusals(decided));
        for (var one : asked.dispatched()) {
            chains.stream()
                    .flatMap(chain -> new Returnable(chain).departed(one.dispatchLine()).stream())
                    .filter(line -> !line.item().equals(item))
                    .findFirst()
                    .ifPresent(line ->
                            refusals.add(new ReturnRefusal.WrongItem(number, item, one.dispatchLine(), line.item())));
        }
        customer.filter(code -> !code.equals(asked.customer()))
                .ifPresent(code -> refusals.add(new CommonRefusal.WrongCustomer(number, code, asked.customer())));
        if (!refusals.isEmpty()) {
            return Decision.refused(refusals);
        }
        var authorised =
                Returning.authorise(asked, chains, policy, new ReturnPolicy.Exemption(decided.by(), decided.reason()));
        if (authorised.isRefused()) {
            return Decision.refused(authorised.refusals());
        }
        var after = chains.stream().map(chain -> chain.after(authorised.get())).toList();
        var received = Returning.receive(authorised.get().authorised(), List.of(), after, asked.on());
        return received.isRefused()
                ? Decision.refused(received.refusals())
                : Decision.of(List.of(authorised.get(), received.get()));
    }

    /** They are not taken back. */
    public Decision<Quantity> turnAway(Decided decided) {
        var refusals = refusals(decided);
        return refusals.isEmpty() ? Decision.of(decided.quantity()) : Decision.refused(refusals);
    }

    private List<Refusal> refusals(Decided decided) {
        var refusals = new ArrayList<Refusal>();
        if (!decided.by().carries(ReturnPolicy.MAKES_EXCEPTIONS)) {
            refusals.add(new CommonRefusal.NotAuthorised(
                    "decide on unexpected goods", decided.by().role(), ReturnPolicy.MAKES_EXCEPTIONS));
        }
        if (decided.reason().isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "a reason for the decision"));
        }
        if (!decided.quantity().isPositive()) {
            refusals.add(CommonRefusal.Incomplete.of("quantity", "a quantity above zero"));
        } else if (decided.quantity().exceeds(left)) {
            refusals.add(new ReturnRefusal.MoreThanCame(number, decided.quantity(), left));
        }
        return refusals;
    }

    /** Goods as they arrive: of a known item, some of it, from someone. */
    public static List<Refusal> takingIn(Quantity quantity, Optional<String> customer, String sender) {
        var missing = new ArrayList<CommonRefusal.Missing>();
        if (!quantity.isPositive()) {
            missing.add(new CommonRefusal.Missing("quantity", "a quantity above zero"));
        }
        if (customer.isEmpty() && sender.isBlank()) {
            missing.add(new CommonRefusal.Missing("customer", "the customer, or the sender on the label"));
        }
        return missing.isEmpty() ? List.of() : List.of(new CommonRefusal.Incomplete(missing));
    }
}
