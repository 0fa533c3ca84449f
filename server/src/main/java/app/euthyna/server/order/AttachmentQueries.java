package app.euthyna.server.order;

import java.util.List;
import org.hibernate.StatelessSession;
import org.hibernate.annotations.processing.HQL;
import org.springframework.transaction.annotation.Transactional;

@Transactional
interface AttachmentQueries {
    StatelessSession session();

    @HQL("select a.attachedBy from AttachmentEntity a where a.id = :id")
    String attachedBy(long id);

    @HQL("delete from AttachmentPartEntity ap where ap.attachmentId = :attachmentId")
    int removeParts(long attachmentId);

    @HQL("delete from AttachmentEntity a where a.id = :id")
    int remove(long id);

    @HQL("""
            select ap.content
            from AttachmentPartEntity ap
            where ap.attachmentId = :attachmentId
            order by ap.partNo
            """)
    List<byte[]> file(long attachmentId);

    @HQL("select a from AttachmentEntity a where a.orderId = :owner order by a.id")
    List<AttachmentEntity> ofOrder(Long owner);

    @HQL("select a from AttachmentEntity a where a.returnId = :owner order by a.id")
    List<AttachmentEntity> ofReturn(Long owner);

    @HQL("select a from AttachmentEntity a where a.unexpectedId = :owner order by a.id")
    List<AttachmentEntity> ofUnexpectedGoods(Long owner);

    @HQL("select a from AttachmentEntity a where a.paymentId = :owner order by a.id")
    List<AttachmentEntity> ofPayment(Long owner);
}
