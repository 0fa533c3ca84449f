package app.euthyna.core.order;

import static app.euthyna.core.Given.TODAY;
import static org.assertj.core.api.Assertions.assertThat;

import app.euthyna.core.order.AgeStrip.Waiting;
import java.util.List;
import org.junit.jupiter.api.Test;

class AgeStripTests {

    @Test
    void everyEdgeFallsOnItsSideAndNothingIsLost() {
        var waiting = List.of(
                new Waiting(TODAY.plusDays(1), 1),
                new Waiting(TODAY, 2),
                new Waiting(TODAY.minusDays(1), 3),
                new Waiting(TODAY.minusDays(2), 4),
                new Waiting(TODAY.minusDays(3), 5),
                new Waiting(TODAY.minusDays(5), 6),
                new Waiting(TODAY.minusDays(6), 7),
                new Waiting(TODAY.minusDays(10), 8),
                new Waiting(TODAY.minusDays(11), 9));
        assertThat(AgeStrip.of(waiting, TODAY, 5)).isEqualTo(new AgeStrip(List.of(3L, 7L, 11L, 15L, 9L), 24));
        assertThat(AgeStrip.of(waiting, TODAY, 11).beyond()).isZero();
    }
}
