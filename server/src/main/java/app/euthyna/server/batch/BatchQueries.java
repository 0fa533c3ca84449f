package app.euthyna.server.batch;

import app.euthyna.server.platform.Listing;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface BatchQueries {
    StatelessSession session();

    record AskedRow(String kind, String askedBy, String role, String standsIn, LocalDate onDate, String reason) {}

    record CountRow(long batchId, String state, Long count) {}

    @HQL("select b.kind, b.askedBy, b.role, b.standsIn, b.onDate, b.reason from BatchEntity b where b.id = :id")
    AskedRow batch(long id);

    @HQL("""
            select be.no
            from BatchEntryEntity be
            where be.batchId = :batchId and be.state = 'WAITING'
            order by be.no
            """)
    List<Integer> waiting(long batchId);

    /** Whether somebody has stopped it. */
    @HQL("select count(*) from BatchEntity b where b.id = :id and b.stoppedAt is not null")
    long stopped(long id);

    /** How many entries still wait. */
    @HQL("select count(*) from BatchEntryEntity be where be.batchId = :batchId and be.state = 'WAITING'")
    long leftOf(long batchId);

    /** The documents that its entries came to. */
    @HQL("""
            select be.result
            from BatchEntryEntity be
            where be.batchId = :batchId and be.state = 'DONE' and be.result is not null
            order by be.no
            """)
    List<String> results(long batchId);

    @HQL("""
            update BatchEntryEntity be
            set be.state = :state, be.code = :code, be.sentence = :sentence, be.resultKind = :resultKind, be.result
                = :result
            where be.batchId = :batchId and be.no = :no and be.state = 'WAITING'
            """)
    int settle(String state, String code, String sentence, String resultKind, String result, long batchId, int no);

    @HQL("""
            select be.batchId, be.state, count(*)
            from BatchEntryEntity be
            where :ids contains be.batchId
            group by be.batchId, be.state
            """)
    List<CountRow> counts(Long[] ids);

    /** Batches of these kinds, newest first; what else is null does not matter. */
    default List<BatchEntity> heads(String[] kinds, String kind, Long id, Long before) {
        return Listing.of(session(), BatchEntity.class, "select b from BatchEntity b")
                .where(":kinds contains b.kind", kinds)
                .where("b.kind = :kind", kind)
                .where("b.id = :id", id)
                .where("b.id < :before", before)
                .then("order by b.id desc")
                .page();
    }

    /** A page of a batch's entries, of one state or of all. */
    default List<BatchEntryEntity> entries(long batch, int after, String state) {
        return Listing.of(session(), BatchEntryEntity.class, "select e from BatchEntryEntity e")
                .where("e.batchId = :batch", batch)
                .where("e.no > :after", after)
                .where("e.state = :state", state)
                .then("order by e.no")
                .page();
    }
}
