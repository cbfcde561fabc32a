"""Who may bring files and change them."""

from dakika_server.accounts.permissions import MAKERS, Permission

ROWS = {"media.change": Permission(MAKERS, "bring pictures, videos and documents, and change what is said of them")}
