package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.ZoneId;
import java.util.Currency;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.jdbc.core.simple.JdbcClient;
import org.springframework.stereotype.Component;

/** The one company whose books these are, with its currency and time zone, which never change once they are set. */
@Component
public class Company {

    private final JdbcClient jdbc;
    private volatile Facts facts;

    Company(JdbcClient jdbc) {
        this.jdbc = jdbc;
    }

    /** Name, currency and time zone of the company. */
    public record Facts(String name, Currency currency, boolean demo, ZoneId zone) {}

    public Facts facts() {
        var known = facts;
        if (known == null) {
            known = jdbc.sql("select name, currency, demo, time_zone from company where id = 1")
                    .query((row, n) -> new Facts(
                            row.getString(1),
                            Currency.getInstance(row.getString(2)),
                            row.getBoolean(3),
                            row.getString(4) == null ? ZoneId.systemDefault() : ZoneId.of(row.getString(4))))
                    .single();
            facts = known;
        }
        return known;
    }

    public Currency currency() {
        return facts().currency();
    }

    /** The zone in whose calendar the company dates; the machine's until it is set up. */
    public ZoneId zone() {
        return facts != null || isFounded() ? facts().zone() : ZoneId.systemDefault();
    }

    /** An amount as it is stored, with four decimals. */
    public Money money(BigDecimal stored) {
        return new Money(stored, currency());
    }

    /** Amounts as they are kept, by whatever they belong to. */
    public <K> Map<K, Money> amounts(Map<K, BigDecimal> stored) {
        return stored.entrySet().stream().collect(Collectors.toMap(Map.Entry::getKey, e -> money(e.getValue())));
    }

    /** An amount as someone sent it: more decimals than the currency has are refused, not rounded. */
    public Money given(String field, BigDecimal amount) {
        if (amount == null || amount.stripTrailingZeros().scale() > currency().getDefaultFractionDigits()) {
            throw new RefusedException(CommonRefusal.Incomplete.of(
                    field, "an amount with at most " + currency().getDefaultFractionDigits() + " decimals"));
        }
        return new Money(amount.setScale(currency().getDefaultFractionDigits(), RoundingMode.UNNECESSARY), currency());
    }

    /** Sets up the company of a new database; does nothing to one that has its own. */
    public void found(String name, String currency, boolean demo, ZoneId zone) {
        if (!isFounded()) {
            jdbc.sql("insert into company (id, name, currency, demo, time_zone) values (1, ?, ?, ?, ?)")
                    .params(name, currency, demo, zone.getId())
                    .update();
        }
    }

    /** What stands on the company's paper. */
    public void onPaper(String street, String postcode, String town, String country, String vatId, String iban) {
        jdbc.sql("update company set street = ?, postcode = ?, town = ?, country = ?, vat_id = ?, iban = ?"
                        + " where id = 1")
                .params(street, postcode, town, country, vatId, iban)
                .update();
    }

    public boolean isFounded() {
        return jdbc.sql("select count(*) from company").query(Long.class).single() > 0;
    }
}
