"""All computation, without any interface."""
