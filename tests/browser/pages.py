"""The addresses that every walk over the application visits."""

STRANGERS = (
    "/sign-in/", "/sign-up/", "/forgotten/", "/forgotten/sent/", "/forgotten/MQ/a1-b2/", "/outbox/", "/r/none/",
    "/nothing/",
)  # fmt: skip
MEMBERS = (
    "/", "/tables/new/", "/tables/new/?way=paste", "/tables/new/?way=type", "/reports/new/", "/account/",
    "/account/delete/", "/gallery/", "/gallery/ranked-list/", "/styles/", "/reports/from-text/",
)  # fmt: skip
