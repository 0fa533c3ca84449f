package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import java.util.Collection;
import java.util.Map;
import java.util.Optional;
import java.util.function.Function;
import java.util.function.LongFunction;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;

/** From the numbers and codes that the core knows to the rows that carry them. */
@Component
public class Ids {

    private final IdQueries queries;
    private final TransactionCache<String, Long> known = TransactionCache.readThrough();
    private final TransactionCache<String, String> codes = TransactionCache.readThrough();

    Ids(IdQueries queries) {
        this.queries = queries;
    }

    public long order(String number) {
        return one("order", number, queries::order);
    }

    public long customer(String code) {
        return one("customer", code, queries::customer);
    }

    public long item(String code) {
        return one("item", code, queries::item);
    }

    public long site(String code) {
        return one("store", code, queries::site);
    }

    public long dispatch(String number) {
        return one("dispatch", number, queries::dispatch);
    }

    public long invoice(String number) {
        return one("invoice", number, queries::invoice);
    }

    /** The customer of an invoice. */
    public long invoiceCustomer(String number) {
        return one("invoice", "customer of invoice", number, queries::customerOfInvoice);
    }

    public long deposit(String number) {
        return one("deposit", number, queries::deposit);
    }

    public long payment(String number) {
        return one("payment", number, queries::payment);
    }

    public long writeOff(String number) {
        return one("write-off", number, queries::writeOff);
    }

    public long goodsReturn(String number) {
        return one("return", number, queries::goodsReturn);
    }

    public long unexpectedGoods(String number) {
        return one("unexpected goods", number, queries::unexpectedGoods);
    }

    /** Somebody has read or written an order: nobody needs to ask for its id again. */
    public void orderIs(String number, long id) {
        is("order", number, id);
    }

    /** The same of a customer. */
    public void customerIs(String code, long id) {
        is("customer", code, id);
    }

    /** The same of an item. */
    public void itemIs(String code, long id) {
        is("item", code, id);
    }

    /** The same of a store. */
    public void siteIs(String code, long id) {
        is("store", code, id);
    }

    private void is(String what, String code, long id) {
        known.put(what + " " + code, id);
        codes.put(what + " " + id, code);
    }

    /** Numbers of orders by their id. */
    public Map<Long, String> orderNumbers(Collection<Long> ids) {
        return ids.isEmpty()
                ? Map.of()
                : queries.orderNumbers(Many.ids(ids)).stream()
                        .collect(Collectors.toMap(IdQueries.Numbered::id, IdQueries.Numbered::number));
    }

    public String customerCode(long id) {
        return code("customer", id, queries::customerCode);
    }

    public String itemCode(long id) {
        return code("item", id, queries::itemCode);
    }

    public String siteCode(long id) {
        return code("store", id, queries::siteCode);
    }

    private long one(String what, String code, Function<String, Optional<Long>> asked) {
        return one(what, what, code, asked);
    }

    private long one(String what, String known, String code, Function<String, Optional<Long>> asked) {
        return this.known.get(known + " " + code, key -> {
            var id = asked.apply(code).orElseThrow(() -> new RefusedException(new CommonRefusal.NotFound(what, code)));
            codes.put(known + " " + id, code);
            return id;
        });
    }

    private String code(String what, long id, LongFunction<String> asked) {
        return codes.get(what + " " + id, key -> asked.apply(id));
    }
}
