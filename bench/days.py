"""The day on which figures are taken: the computer's, or where the environment says the clock stands."""

import os

from umbra_awl.core.keep.clock import clock_of

CLOCK = clock_of(os.environ)
TODAY = CLOCK.today()
LOCAL = CLOCK.local()
MOMENT = CLOCK.utc()
