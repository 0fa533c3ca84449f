package app.euthyna.server.platform;

import app.euthyna.core.shared.CommonRefusal;
import app.euthyna.core.shared.Money;
import java.math.BigDecimal;
import java.math.RoundingMode;
import java.time.Instant;
import java.time.LocalDate;
import java.time.ZoneId;
import java.util.Currency;
import java.util.Map;
import java.util.stream.Collectors;
import org.springframework.stereotype.Component;
import org.springframework.transaction.annotation.Transactional;

/**
 * The one company whose books these are, with its currency and time zone, which never change once they are set, and its
 * clock.
 */
@Component
public class Company {

    private final PlatformQueries queries;
    private final CompanyClock clock = new CompanyClock(this);
    private volatile Facts facts;

    Company(PlatformQueries queries) {
        this.queries = queries;
    }

    /** Name, currency and time zone of the company. */
    public record Facts(String name, Currency currency, boolean demo, ZoneId zone) {}

    public Facts facts() {
        var known = facts;
        if (known == null) {
            var row = queries.facts();
            known = new Facts(
                    row.name(),
                    Currency.getInstance(row.currency()),
                    row.demo(),
                    row.timeZone() == null ? ZoneId.systemDefault() : ZoneId.of(row.timeZone()));
            facts = known;
        }
        return known;
    }

    public CompanyClock clock() {
        return clock;
    }

    /** The calendar day in its time zone. */
    public LocalDate today() {
        return clock.today();
    }

    public Instant now() {
        return clock.instant();
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
    @Transactional
    public void found(String name, String currency, boolean demo, ZoneId zone) {
        if (!isFounded()) {
            var row = new CompanyEntity();
            row.id = 1;
            row.name = name;
            row.currency = currency;
            row.demo = demo;
            row.timeZone = zone.getId();
            queries.session().insert(row);
        }
    }

    /** What stands on the company's paper. */
    public void onPaper(String street, String postcode, String town, String country, String vatId, String iban) {
        queries.onPaper(street, postcode, town, country, vatId, iban);
    }

    public boolean isFounded() {
        return queries.isFounded() > 0;
    }
}
