"""When one can be on the air, and trips: lead times, dates, calendars."""
