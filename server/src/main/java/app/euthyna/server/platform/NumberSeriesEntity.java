package app.euthyna.server.platform;

import jakarta.persistence.Entity;
import jakarta.persistence.Id;
import jakarta.persistence.Table;

@Entity
@Table(name = "number_series")
public class NumberSeriesEntity {
    @Id
    String series;

    long nextValue;
}
