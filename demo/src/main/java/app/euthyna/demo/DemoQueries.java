package app.euthyna.demo;

import java.math.BigDecimal;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

/** What the made-up bank looks at. */
@Transactional
interface DemoQueries {
    StatelessSession session();

    record Open(String number, BigDecimal openAmount, String customer) {}

    @HQL("""
            select i.number, i.openAmount, c.name
            from InvoiceEntity i
            join CustomerEntity c on c.id = i.customerId
            where i.openAmount > 50
            order by i.id
            fetch first 8 rows only
            """)
    List<Open> open();
}
