package app.euthyna.server.today;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;

@Entity
@IdClass(LaneLimitEntity.Key.class)
@Table(name = "lane_limit")
public class LaneLimitEntity {
    @Id
    String username;

    @Id
    String lane;

    int days;

    public record Key(String username, String lane) {}
}
