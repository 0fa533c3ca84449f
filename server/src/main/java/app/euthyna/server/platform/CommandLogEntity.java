package app.euthyna.server.platform;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.IdClass;
import jakarta.persistence.Table;
import java.time.Instant;

@Entity
@IdClass(CommandLogEntity.Key.class)
@Table(name = "command_log")
public class CommandLogEntity {
    @Id
    String username;

    @Id
    String idempotencyKey;

    String requestHash;
    String response;
    Instant at;

    public record Key(String username, String idempotencyKey) {}
}
