package app.euthyna.server.returns;

import app.euthyna.server.platform.Listing;
import java.math.BigDecimal;
import java.time.LocalDate;
import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface UnexpectedQueries {
    StatelessSession session();

    record DecisionRow(
            long goodsId,
            String kind,
            BigDecimal quantity,
            LocalDate decidedOn,
            String decidedBy,
            String reason,
            String goodsReturn) {}

    @HQL("""
            select d.goodsId, d.kind, d.quantity, d.decidedOn, d.decidedBy, d.reason, g.number
            from UnexpectedDecisionEntity d
            left join ReturnEntity g on g.id = d.returnId
            where :goods contains d.goodsId
            order by d.id
            """)
    List<DecisionRow> decisions(Long[] goods);

    @HQL("""
            update UnexpectedGoodsEntity ug
            set ug.leftOver = ug.leftOver - :leftOver, ug.version = ug.version + 1
            where ug.id = :id
            """)
    int lessLeft(BigDecimal leftOver, long id);

    record GoodsRow(
            long id,
            String number,
            String customer,
            String customerName,
            String sender,
            String goodsReturn,
            String item,
            String itemName,
            BigDecimal quantity,
            BigDecimal leftOver,
            String site,
            LocalDate cameOn,
            String takenBy,
            String remark,
            long version) {}

    private Listing<GoodsRow> listed() {
        return Listing.of(session(), GoodsRow.class, """
                        select u.id, u.number, c.code, c.name, u.sender, g.number, i.code, i.name, u.quantity,
                            u.leftOver, s.code, u.cameOn, u.takenBy, u.remark, u.version
                        from UnexpectedGoodsEntity u
                        left join CustomerEntity c on c.id = u.customerId
                        left join ReturnEntity g on g.id = u.returnId
                        join ItemEntity i on i.id = u.itemId
                        join SiteEntity s on s.id = u.siteId
                        """);
    }

    default List<GoodsRow> numbered(String number) {
        return listed().where("u.number = :number", number).all();
    }

    /** What waits for a decision, the oldest first. */
    default List<GoodsRow> waiting(Long after) {
        return listed().where("u.leftOver > 0")
                .where("u.id > :after", after)
                .then("order by u.id")
                .page();
    }

    /** All, newest first. */
    default List<GoodsRow> page(Long before) {
        return listed().where("u.id < :before", before)
                .then("order by u.id desc")
                .page();
    }
}
