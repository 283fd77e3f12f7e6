"""The findings beside a page. What is found is worked out in the core."""
