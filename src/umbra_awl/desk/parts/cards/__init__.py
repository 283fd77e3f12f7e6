"""Cards of fields: what a thing of the plan is set to, shown and edited in place."""
