"""Changes to links, one function per intent."""

from dakika_server.links.actions.changing import change_link, may_change
from dakika_server.links.actions.domains import add_domain, choose_domain, remove_domain
from dakika_server.links.actions.making import Draft, Proposal, make_link, make_links, proposal_of, rules_of
from dakika_server.links.actions.pages import remove_page, save_page
from dakika_server.links.actions.settings import save_settings

__all__ = [
    "Draft", "Proposal", "add_domain", "change_link", "choose_domain", "make_link", "make_links", "may_change",
    "proposal_of", "remove_domain", "remove_page", "rules_of", "save_page", "save_settings",
]  # fmt: skip
