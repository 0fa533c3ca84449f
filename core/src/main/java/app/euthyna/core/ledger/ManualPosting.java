package app.euthyna.core.ledger;

import app.euthyna.core.flow.Effect;
import app.euthyna.core.flow.Effect.ManualLine;
import app.euthyna.core.shared.Code;
import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Decision;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Person;
import app.euthyna.core.shared.Refusal;
import app.euthyna.core.shared.Role;
import java.util.ArrayList;
import java.util.Currency;
import java.util.List;
import java.util.Map;
import java.util.Set;

/** A manual entry: by the finance lead, with a reason, never into an account that documents account for. */
public final class ManualPosting {

    private ManualPosting() {}

    /** The account's balance follows from documents, to the cent. */
    @Code("control-account")
    public record ControlAccount(String account, String role) implements Refusal {}

    /**
     * Decides on a manual entry.
     *
     * @param roles by account that exists, those that the posting map gives it
     */
    public static Decision<Effect.ManualEntryPosted> post(
            String number,
            List<ManualLine> lines,
            Map<String, Set<AccountRole>> roles,
            Person person,
            String reason,
            Currency currency) {
        if (person.role() != Role.LEAD) {
            return Decision.refused(
                    new CommonRefusal.NotAuthorised("post a manual entry", person.role(), List.of(Role.LEAD)));
        }
        var refusals = new ArrayList<Refusal>();
        if (reason.isBlank()) {
            refusals.add(CommonRefusal.Incomplete.of("reason", "a reason for the entry"));
        }
        if (lines.size() < 2 || lines.stream().anyMatch(line -> line.amount().isZero())) {
            refusals.add(CommonRefusal.Incomplete.of("lines", "at least two lines, each with an amount"));
        }
        var sum = lines.stream().map(ManualLine::amount).reduce(Money.zero(currency), Money::plus);
        if (!sum.isZero()) {
            refusals.add(CommonRefusal.Incomplete.of("lines", "debits that equal credits; they differ by " + sum));
        }
        for (var line : lines) {
            if (!roles.containsKey(line.account())) {
                refusals.add(new CommonRefusal.NotFound("account", line.account()));
            } else {
                roles.get(line.account()).stream()
                        .filter(AccountRole::isControl)
                        .findFirst()
                        .ifPresent(role -> refusals.add(new ControlAccount(line.account(), role.words())));
            }
        }
        return refusals.isEmpty()
                ? Decision.of(new Effect.ManualEntryPosted(number, lines))
                : Decision.refused(refusals);
    }

    /** The role under which a manual amount counts on an account: the account's only one, or none in particular. */
    public static AccountRole role(Set<AccountRole> roles) {
        return roles.size() == 1 ? roles.iterator().next() : AccountRole.OTHER;
    }
}
