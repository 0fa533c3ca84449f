package app.euthyna.core.trail;

import app.euthyna.core.flow.Chain;
import app.euthyna.core.flow.Return;
import app.euthyna.core.shared.DocumentKind;
import app.euthyna.core.shared.DocumentRef;
import app.euthyna.core.shared.Money;
import app.euthyna.core.shared.Quantity;
import java.util.ArrayList;
import java.util.Collection;
import java.util.List;
import java.util.Map;
import java.util.Optional;

/** What of a trail's returns and their money waits for someone, as a clause: "2 in inspection". */
public record StillToDo(DocumentRef document, String what) {

    /** Net values owed for a return, see {@link app.euthyna.core.returns.Crediting#owed}. */
    public record ReturnOwed(Money toCredit, Money ahead) {}

    /** How far money is that is to go back. */
    public enum Going {
        WISHED("to be refunded"),
        ON_ITS_WAY("sent to the payment service"),
        UNANSWERED("sent; the payment service does not answer"),
        DECLINED("declined by the payment service");

        private final String words;

        Going(String words) {
            this.words = words;
        }
    }

    /** Money that is to go back of a credit note, or with a refund. */
    public record MoneyGoing(DocumentRef document, Money amount, Going going) {}

    public static List<StillToDo> of(Collection<Chain> roots, Map<String, ReturnOwed> owed, List<MoneyGoing> money) {
        var todo = new ArrayList<StillToDo>();
        for (var goods : roots.stream()
                .flatMap(chain -> chain.returns().stream())
                .distinct()
                .toList()) {
            var ref = new DocumentRef(DocumentKind.RETURN, goods.number());
            add(
                    todo,
                    ref,
                    Quantity.sum(goods.lines().stream().map(goods::expected).toList()),
                    "%s expected back");
            add(
                    todo,
                    ref,
                    Quantity.sum(goods.lines().stream()
                            .map(Return.Line::inInspection)
                            .toList()),
                    "%s in inspection");
            Optional.ofNullable(owed.get(goods.number())).ifPresent(o -> {
                add(todo, ref, o.toCredit(), "%s net to be credited");
                add(todo, ref, o.ahead(), "%s net credited ahead");
            });
        }
        money.forEach(going -> todo.add(new StillToDo(going.document(), going.amount() + " " + going.going().words)));
        return todo;
    }

    private static void add(List<StillToDo> todo, DocumentRef document, Quantity quantity, String words) {
        if (quantity.isPositive()) {
            todo.add(new StillToDo(document, words.formatted(quantity)));
        }
    }

    private static void add(List<StillToDo> todo, DocumentRef document, Money amount, String words) {
        if (amount.isPositive()) {
            todo.add(new StillToDo(document, words.formatted(amount)));
        }
    }
}
