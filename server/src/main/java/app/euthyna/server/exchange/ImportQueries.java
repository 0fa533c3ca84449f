package app.euthyna.server.exchange;

import java.time.Instant;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface ImportQueries {
    StatelessSession session();

    @HQL("select c.code from CustomerEntity c")
    List<String> customerCodes();

    @HQL("select i.code from ItemEntity i")
    List<String> itemCodes();

    @HQL("update ImportLogEntity il set il.touchedAt = :touchedAt where il.id = :id")
    int touch(Instant touchedAt, long id);

    @HQL("""
            update ImportLogEntity il
            set il.ordersDone = :ordersDone, il.touchedAt = :touchedAt
            where il.id = :id
            """)
    int progress(int ordersDone, Instant touchedAt, long id);

    @HQL("""
            update ImportLogEntity il
            set il.ordersDone = :ordersDone, il.touchedAt = :touchedAt, il.result = :result
            where il.id = :id
            """)
    int finish(int ordersDone, Instant touchedAt, String result, long id);

    record CustomerRow(String customer, long id) {}

    record PastRow(long customerId, String number) {}

    @HQL("select c.code, c.id from CustomerEntity c")
    List<CustomerRow> customers();

    @HQL("select pi.customerId, pi.number from PastInvoiceEntity pi")
    List<PastRow> pastInvoices();

    @HQL("select i.code from ItemEntity i where i.kind = 'STOCK'")
    List<String> stockItems();

    @HQL("select s.code from SiteEntity s")
    List<String> stores();

    @HQL("select count(*) from StockFileEntity sf where sf.fileHash = :fileHash")
    long filesLike(String fileHash);

    default ImportLogEntity log(long id) {
        return session().get(ImportLogEntity.class, id);
    }

    default ImportPageEntity page(long id, ImportPageEntity.Part part, int no) {
        return session().get(ImportPageEntity.class, new ImportPageEntity.Key(id, part, no));
    }
}
