package app.euthyna.server.flow;

import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface OpenOrderQueries {
    StatelessSession session();

    @HQL("delete from OpenOrderEntity oo where oo.orderId = :orderId")
    int remove(long orderId);
}
