"""Who may do what with the plan."""

from dakika_server.accounts.permissions import APPROVERS, EVERYBODY, PUBLISHERS, WRITERS, Permission

ROWS = {
    "plan.boost": Permission(APPROVERS, "spend money on showing posts to more people"),
    "plan.guests": Permission(APPROVERS, "make links for guests who may say yes"),
    "plan.publish": Permission(PUBLISHERS, "set posts to be published, change and take them back"),
    "plan.read": Permission(EVERYBODY, "look at the plan", is_reading=True),
    "plan.write": Permission(WRITERS, "write posts"),
}
