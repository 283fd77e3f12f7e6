"""Background work that is late, or fails, at a hop that a test chooses."""

import threading
import time

from umbra_awl.desk.jobs import Jobs


class FaultyJobs(Jobs):
    """By the name of work: `late` are seconds it waits first, `fails` the error it raises, `held` the event it waits for."""

    def __init__(self):
        super().__init__()
        self.late, self.fails, self.held = {}, {}, {}

    def hold(self, name):
        """Keep work of that name from going on until the event that is given back is set."""
        self.held[name] = threading.Event()
        return self.held[name]

    def _run(self, name, work, done, failed):
        def spoiled():
            short = name.partition(" ")[0]
            time.sleep(self.late.get(short, 0))
            if short in self.held:
                self.held[short].wait(20)
            if short in self.fails:
                raise self.fails[short]
            return work()

        super()._run(name, spoiled, done, failed)
