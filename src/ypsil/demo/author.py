"""The sample author, shown on the sign-in page in demo mode only."""

DEMO_NAME = "sample"
DEMO_PASSWORD = "two arms one stem"
