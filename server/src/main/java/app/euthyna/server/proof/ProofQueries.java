package app.euthyna.server.proof;

import java.math.BigDecimal;
import java.util.List;
import java.util.Optional;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface ProofQueries {
    StatelessSession session();

    @HQL("select pr.result from ProofRunEntity pr order by pr.id desc fetch first 1 rows only")
    Optional<String> latest();

    record MovesRow(String documentKind, String documentNumber, String order, String stateTo) {}

    @HQL("""
            select h.documentKind, h.documentNumber, o.number, (select s.stateTo from HistoryEntity s where s.moment
                = (select max(m.moment) from HistoryEntity m where m.orderId = h.orderId and m.moment < h.moment and
                m.stateTo is not null))
            from HistoryEntity h
            join OrderEntity o on o.id = h.orderId
            where :orders contains o.number and h.event in ('departed', 'invoiced')
            order by h.moment
            """)
    List<MovesRow> moves(String[] orders);

    /** Totals as a document states them. */
    record TotalsRow(String number, BigDecimal net, BigDecimal vat, BigDecimal gross) {}

    @HQL("select d.number, d.net, d.vat, d.gross from OrderEntity d where :numbers contains d.number")
    List<TotalsRow> orderTotals(String[] numbers);

    @HQL("select d.number, d.net, d.vat, d.gross from InvoiceEntity d where :numbers contains d.number")
    List<TotalsRow> invoiceTotals(String[] numbers);

    @HQL("select d.number, d.net, d.vat, d.gross from CreditNoteEntity d where :numbers contains d.number")
    List<TotalsRow> creditNoteTotals(String[] numbers);
}
