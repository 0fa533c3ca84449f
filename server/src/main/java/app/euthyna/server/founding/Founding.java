package app.euthyna.server.founding;

import app.euthyna.server.people.People;
import java.util.List;
import org.springframework.context.SmartLifecycle;
import org.springframework.stereotype.Component;

/**
 * Sets up a new database when the application first starts on it, before it answers anybody and before any job runs.
 */
@Component
class Founding implements SmartLifecycle {

    private volatile boolean done;

    private final People people;
    private final List<Founder> founders;

    Founding(People people, List<Founder> founders) {
        this.people = people;
        this.founders = founders;
    }

    @Override
    public int getPhase() {
        return 0;
    }

    @Override
    public boolean isRunning() {
        return done;
    }

    @Override
    public void stop() {
        done = false;
    }

    @Override
    public void start() {
        if (people.isEmpty()) {
            founders.get(0).found();
        }
        done = true;
    }
}
